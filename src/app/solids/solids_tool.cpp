#include "app/solids/solids_tool.h"

#include "app/theme.h"
#include "app/qt_text.h"
#include "app/view/model_view.h"

#include "core/base/units.h"
#include "core/solids/solid_mesh.h"

#include <cmath>

namespace zl::app {

namespace {

constexpr double lampReach = 14; ///< pixels around a light's sign that take a click
constexpr double snapPixels = 8; ///< that ends are apart when they meet
constexpr int roughSides = 16;

glm::dvec3 at(const glm::dmat4& place, const glm::dvec3& point) {
    return glm::dvec3(place * glm::dvec4(point, 1));
}

} // namespace

solids::Number SolidsTool::under(const ModelView& view, QPointF pixel) const {
    const solids::Scene* now = scene();
    if (!now) return 0;
    const glm::dmat4 placed = place();
    for (const auto& [number, light] : now->lights)
        if (light.kind != solids::LightKind::Sun &&
            (view.onScreen(at(placed, light.at)) - pixel).manhattanLength() < lampReach)
            return number;
    const auto shown = view.restScene();
    const auto pick = shown ? view.pick(pixel) : std::nullopt;
    const solids::Shown* parts = shown ? solids::shownBy(shown->model) : nullptr;
    if (!pick || !parts) return 0;
    const std::vector<int> nodes = solids::nodesOf(shown->model);
    for (std::size_t p = 0; p < nodes.size(); ++p)
        if (nodes[p] == pick->node) return parts->parts[p].solid;
    return 0;
}

glm::dvec3 SolidsTool::snapped(glm::dvec3 by) const {
    if (snap > 0)
        for (int k = 0; k < 3; ++k) by[k] = std::round(by[k] / snap) * snap;
    return by;
}

void SolidsTool::measureOthers() {
    moves_ = {}, others_.clear(), onto_ = {};
    if (!onOthers) return;
    const solids::Scene* now = scene();
    for (const auto& [number, solid] : now->solids) {
        const geometry::Bounds bounds = geometry::meshBounds(solids::meshOf(solid.shape, roughSides).mesh,
                                                             solids::placeOf(solid.at, solid.turn));
        if (chosen.contains(number))
            moves_.add(bounds);
        else
            others_.push_back(bounds);
    }
    for (const auto& [number, light] : now->lights)
        if (chosen.contains(number)) moves_.add(light.at);
}

glm::dvec3 SolidsTool::dragged(const ModelView& view, QPointF to, bool up) {
    const Camera& camera = view.camera();
    const glm::dvec3 ray = camera.ray(to.x(), to.y(), view.width(), view.height()), eye = camera.eye();
    // Level, or upright and across the line of sight.
    const glm::dvec3 back = camera.back(),
                     normal = up ? glm::normalize(glm::dvec3(back.x, 0, back.z) + glm::dvec3(0, 0, 1e-9))
                                 : glm::dvec3(0, 1, 0);
    const double facing = glm::dot(ray, normal);
    if (std::abs(facing) < 1e-3) return by_;
    const double way = glm::dot(*from_ - eye, normal) / facing;
    if (way <= 0) return by_;
    glm::dvec3 by = eye + ray * way - *from_;
    if (up) by = {0, by.y, 0};
    const glm::dmat3 turn(place());
    const glm::dvec3 free = glm::inverse(turn) * by;
    if (!onOthers) return snapped(free);
    const double pixel =
        2 * std::tan(Camera::fieldOfView / 2) * glm::distance(eye, *from_ + by) / view.height();
    const double reach = snapPixels * pixel / glm::length(turn[0]);
    onto_ = ontoOthers(moves_, others_, free, {!up, up, !up}, reach);
    return onto_.by;
}

void SolidsTool::drawMeeting(ModelView& view, QPainter& painter) const {
    painter.setPen(QPen(tokens().zest, 1.4, Qt::DashLine));
    for (int axis = 0; axis < 3; ++axis) {
        const int other = onto_.other[std::size_t(axis)];
        if (other < 0) continue;
        glm::dvec3 here = moves_.centre() + by_, there = others_[std::size_t(other)].centre();
        here[axis] = there[axis] = onto_.at[std::size_t(axis)];
        const glm::dmat4 placed = place();
        painter.drawLine(view.onScreen(at(placed, here)), view.onScreen(at(placed, there)));
        painter.drawEllipse(view.onScreen(at(placed, there)), 3, 3);
    }
}

bool SolidsTool::press(ModelView& view, const Hand& hand) {
    const solids::Number number = under(view, hand.at);
    from_.reset(), drags_ = false, by_ = {}, pressed_ = 0;
    if (number == 0) return false; // the view turns; a click beside everything is told by release
    const bool adds = hand.keys & Qt::ShiftModifier;
    if (adds) {
        if (!chosen.erase(number)) chosen.insert(number);
        choseAnother();
    } else if (!chosen.contains(number)) {
        chosen = {number};
        choseAnother();
    } else
        pressed_ = number;
    const solids::Scene* now = scene();
    const auto light = now->lights.find(number);
    const auto pick = view.pick(hand.at);
    from_ = light != now->lights.end() ? std::optional(at(place(), light->second.at))
            : pick                     ? std::optional(pick->at)
                                       : std::nullopt;
    measureOthers();
    view.repaintOver();
    return true;
}

void SolidsTool::move(ModelView& view, const Hand& hand) {
    if (!from_ || (!drags_ && !hand.hasMoved())) return;
    drags_ = true;
    by_ = dragged(view, hand.at, hand.keys & Qt::AltModifier);
    view.repaintOver();
}

void SolidsTool::release(ModelView& view, const Hand&) {
    const glm::dvec3 by = by_;
    const bool moves = drags_ && by != glm::dvec3(0);
    from_.reset(), drags_ = false, by_ = {};
    if (moves)
        moved(by);
    else if (pressed_ != 0 && chosen.size() > 1) { // one of several was clicked, and not dragged
        chosen = {pressed_};
        choseAnother();
    }
    view.repaintOver();
}

std::optional<Qt::CursorShape> SolidsTool::hover(ModelView& view, QPointF pixel) {
    const solids::Number number = under(view, pixel);
    if (number == 0) return std::nullopt;
    return chosen.contains(number) ? Qt::SizeAllCursor : Qt::PointingHandCursor;
}

bool SolidsTool::key(ModelView&, const QKeyEvent& event, bool pressed) {
    return pressed && keyed && keyed(event);
}

void SolidsTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    const solids::Scene* now = scene();
    if (!now) return;
    const glm::dmat4 placed = place();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(tokens().zest, 1.6));
    for (const solids::Number number : chosen) {
        const auto found = now->solids.find(number);
        if (found == now->solids.end()) continue;
        const solids::Solid& solid = found->second;
        const glm::dmat4 own = placed * solids::placeOf(solid.at + by_, solid.turn);
        QPointF corner[8];
        for (int k = 0; k < 8; ++k)
            corner[k] = view.onScreen(
                at(own, solid.shape.size * 0.5 * glm::dvec3(k & 1 ? 1 : -1, k & 2 ? 1 : -1, k & 4 ? 1 : -1)));
        for (int k = 0; k < 8; ++k)
            for (const int bit : {1, 2, 4})
                if (!(k & bit)) painter.drawLine(corner[k], corner[k | bit]);
    }
    for (const auto& [number, light] : now->lights) {
        if (light.kind == solids::LightKind::Sun) continue;
        const bool own = chosen.contains(number);
        const QPointF middle = view.onScreen(at(placed, light.at + (own ? by_ : glm::dvec3(0))));
        painter.setPen(QPen(own ? tokens().zest : tokens().ink, own ? 2.2 : 1.2));
        painter.setBrush(QColor::fromRgbF(light.colour.r, light.colour.g, light.colour.b));
        painter.drawEllipse(middle, 6, 6);
        painter.setBrush(Qt::NoBrush);
        for (int ray = 0; ray < 8; ++ray) {
            const double angle = ray * 0.7853981633974483;
            const QPointF way(std::cos(angle), std::sin(angle));
            painter.drawLine(middle + way * 8.5, middle + way * 12);
        }
    }
    if (drags_ && from_) drawMeeting(view, painter);
    if (drags_ && from_)
        label(view.onScreen(*from_ + glm::dmat3(placed) * by_),
              QObject::tr("%1 × %2 × %3 m")
                  .arg(qs(showNumber(by_.x, 2)), qs(showNumber(by_.y, 2)), qs(showNumber(by_.z, 2))),
              tokens().ink, true, Qt::AlignCenter);
}

} // namespace zl::app
