#include "app/view/tools/handle_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

namespace zl::app {

namespace {

/// Two unit vectors that span the plane across `axis`, right-handed with it.
std::pair<glm::dvec3, glm::dvec3> acrossOf(const glm::dvec3& axis) {
    const glm::dvec3 other = std::abs(axis.x) < 0.9 ? glm::dvec3(1, 0, 0) : glm::dvec3(0, 1, 0);
    const glm::dvec3 u = glm::normalize(glm::cross(other, axis));
    return {u, glm::cross(axis, u)};
}

/// The angle about the handle's axis at which a pixel's ray meets the plane across it.
std::optional<double> angleAt(const ModelView& view, const Handle& handle, QPointF pixel) {
    const Camera& camera = view.camera();
    const glm::dvec3 ray = camera.ray(pixel.x(), pixel.y(), view.width(), view.height());
    const double slope = glm::dot(ray, handle.axis);
    if (std::abs(slope) < 0.02) return std::nullopt; // seen edge-on
    const double distance = glm::dot(handle.centre - camera.eye(), handle.axis) / slope;
    if (distance <= 0) return std::nullopt;
    const glm::dvec3 from = camera.eye() + ray * distance - handle.centre;
    const auto [u, v] = acrossOf(handle.axis);
    return std::atan2(glm::dot(from, v), glm::dot(from, u));
}

/// Where a handle that acts at the end stands meanwhile.
glm::dvec3 placeOf(const Handle& handle, const HandleMove& move) {
    if (handle.way != Handle::Way::Along && handle.way != Handle::Way::Around) return move.onto;
    if (handle.way == Handle::Way::Along) return handle.at + handle.axis * move.way;
    const glm::dmat4 turn = glm::rotate(glm::dmat4(1.0), move.way, handle.axis);
    return handle.centre + glm::dvec3(turn * glm::dvec4(handle.at - handle.centre, 0));
}

} // namespace

const Handle* HandleTool::under(const ModelView& view, QPointF at) const {
    const Handle* nearest = nullptr;
    double least = 11;
    for (const Handle& handle : handles_) {
        const QPointF mark = view.onScreen(handle.at) - at;
        if (const double away = std::hypot(mark.x(), mark.y()); away < least) least = away, nearest = &handle;
    }
    return nearest;
}

bool HandleTool::press(ModelView& view, const Hand& hand) {
    const Handle* found = under(view, hand.at);
    if (!found) return false;
    held_ = *found;
    view.repaintOver();
    return true;
}

std::optional<HandleMove> HandleTool::moveOf(const ModelView& view, const Hand& hand) const {
    HandleMove by;
    if (held_->way == Handle::Way::Along) {
        // How far along its axis the handle moves for the pointer's way, by the axis' direction on screen.
        const double step = view.camera().distance * 0.01;
        const QPointF a = view.onScreen(held_->at), b = view.onScreen(held_->at + held_->axis * step);
        const glm::dvec2 axis(b.x() - a.x(), b.y() - a.y());
        const QPointF way = hand.at - hand.pressedAt;
        if (glm::length(axis) < 1e-6) return std::nullopt;
        by.way = (way.x() * axis.x + way.y() * axis.y) / glm::dot(axis, axis) * step;
    } else if (held_->way == Handle::Way::Around) {
        const auto from = angleAt(view, *held_, hand.pressedAt), to = angleAt(view, *held_, hand.at);
        if (!from || !to) return std::nullopt;
        by.way = std::remainder(*to - *from, 2 * glm::pi<double>());
        if (hand.keys & Qt::ShiftModifier) { // in steps of 15°
            constexpr double step = glm::pi<double>() / 12;
            by.way = std::round(by.way / step) * step;
        }
    } else if (held_->way == Handle::Way::Across || held_->way == Handle::Way::Level) {
        const Camera& camera = view.camera();
        // Seen edge-on, a level plane would carry the hand off to the horizon.
        const bool level = held_->way == Handle::Way::Level && std::abs(camera.back().y) > 0.08;
        const glm::dvec3 across = level ? glm::dvec3(0, 1, 0) : camera.back();
        const glm::dvec3 ray = camera.ray(hand.at.x(), hand.at.y(), view.width(), view.height());
        const double distance = glm::dot(held_->at - camera.eye(), across) / glm::dot(ray, across);
        if (!(distance > 0) || !std::isfinite(distance)) return std::nullopt;
        by.onto = camera.eye() + ray * distance;
    } else if (held_->way == Handle::Way::Surface) {
        const auto met = view.pick(hand.at);
        if (!met) return std::nullopt;
        by.onto = met->at;
    } else {
        const auto point = view.pointNear(hand.at);
        if (!point) return std::nullopt;
        by.onto = *point;
    }
    return by;
}

void HandleTool::move(ModelView& view, const Hand& hand) {
    if (!held_ || !hand.hasMoved()) return;
    if (std::ranges::find(handles_, held_->id, &Handle::id) == handles_.end())
        return; // what was held is gone; the hand waits to be let go
    const auto by = moveOf(view, hand);
    if (!by) return;
    last_ = by;
    if (held_->atEnd) {
        if (previewed) previewed(held_->id, *by);
        view.repaintOver();
    } else if (dragged) {
        dragged(held_->id, *by);
    }
}

void HandleTool::release(ModelView& view, const Hand& hand) {
    const auto held = std::exchange(held_, std::nullopt);
    const auto last = std::exchange(last_, std::nullopt);
    if (held && !hand.hasMoved() && clicked) clicked(*held);
    const bool isThere = held && std::ranges::find(handles_, held->id, &Handle::id) != handles_.end();
    if (isThere && held->atEnd && last && dragged) dragged(held->id, *last);
    if (letGo) letGo();
    view.repaintOver();
}

std::optional<Qt::CursorShape> HandleTool::hover(ModelView& view, QPointF at) {
    return under(view, at) ? std::optional(Qt::SizeAllCursor) : std::nullopt;
}

void HandleTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    const Tokens& t = tokens();
    for (const Handle& handle : handles_) {
        const bool held = held_ && held_->id == handle.id;
        const QPointF at = view.onScreen(held && last_ && handle.atEnd ? placeOf(handle, *last_) : handle.at);
        if (handle.way == Handle::Way::Around) {
            const auto [u, v] = acrossOf(handle.axis);
            const double radius = glm::distance(handle.at, handle.centre);
            QPolygonF ring;
            for (int i = 0; i <= 64; ++i) {
                const double a = i * glm::pi<double>() / 32;
                ring << view.onScreen(handle.centre + radius * (std::cos(a) * u + std::sin(a) * v));
            }
            painter.setPen(QPen(t.sea, held ? 2.5 : 1.25));
            painter.setBrush(Qt::NoBrush);
            painter.drawPolyline(ring);
        }
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(held ? t.seaSoft : t.paper);
        if (handle.way == Handle::Way::Along)
            painter.drawRoundedRect(QRectF(at - QPointF(6, 6), QSizeF(12, 12)), 3, 3);
        else if (handle.way == Handle::Way::Around)
            painter.drawEllipse(at, 7, 7);
        else {
            const double r = handle.small ? 5 : 9;
            painter.drawPolygon(QPolygonF(
                {at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)}));
        }
        if (!handle.label.isEmpty() && (held || !handle.quiet))
            label(at + QPointF(0, 12), handle.label, t.sea, true, Qt::AlignHCenter);
    }
}

} // namespace zl::app
