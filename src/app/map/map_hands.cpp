#include "app/map/map_view.h"

#include "app/view/camera_hands.h"

#include "core/steps/place_on_map.h"

namespace zl::app {

namespace {

constexpr double reach = 12; ///< pixels within which a handle is taken

} // namespace

glm::dvec3 MapView::rayAt(QPointF pixel) const {
    return camera_.ray(pixel.x(), pixel.y(), width(), height());
}

std::optional<glm::dvec3> MapView::onLevel(QPointF pixel, double height) const {
    const glm::dvec3 eye = camera_.eye(), ray = rayAt(pixel);
    if (std::abs(ray.y) < 1e-6) return std::nullopt;
    const double far = (height - eye.y) / ray.y;
    if (far <= 0 || far > 5000) return std::nullopt;
    return eye + ray * far;
}

std::optional<glm::dvec3> MapView::onWorld(QPointF pixel) const {
    if (!world_) return std::nullopt;
    const glm::dvec3 eye = camera_.eye(), ray = rayAt(pixel);
    const auto ground = onLevel(pixel, world_->onMap(glm::dvec3(0)).y);
    if (!world_->rays || !others) return ground;
    const auto hit = world_->rays->hit(glm::vec3(eye), glm::vec3(ray));
    if (!hit || (ground && glm::distance(eye, *ground) < double(hit->distance))) return ground;
    glm::dvec3 at = eye + ray * double(hit->distance);
    glm::dvec3 normal(hit->normal);
    if (glm::dot(normal, ray) > 0) normal = -normal;
    if (std::abs(normal.y) < 0.5) { // a wall: its foot, in front of it by half the piece
        const glm::dvec3 out = glm::normalize(glm::dvec3(normal.x, 0, normal.z));
        at += out * (size() * 0.5);
        for (int k = 0; k < 40; ++k) { // down to what is below, storey by storey
            const auto below = world_->below(at);
            if (at.y - below.height < 1e-3) break;
            at.y = below.height;
        }
    }
    return at;
}

int MapView::placeAt(QPointF pixel) const {
    if (!piece_ || piece_->bounds.empty()) return -1;
    const glm::dvec3 eye = camera_.eye(), ray = rayAt(pixel);
    int found = -1;
    double nearest = 1e30;
    for (std::size_t i = 0; i < places_.size(); ++i) {
        const glm::dmat4 back = glm::inverse(poseOf(places_[i]));
        const glm::dvec3 from(back * glm::dvec4(eye, 1)), way(back * glm::dvec4(ray, 0));
        // A little room around it, for thin things.
        const glm::dvec3 low = piece_->bounds.min - 0.15, high = piece_->bounds.max + 0.15;
        double enter = 0, leave = 1e30;
        for (int k = 0; k < 3; ++k) {
            const double a = (low[k] - from[k]) / way[k], b = (high[k] - from[k]) / way[k];
            enter = std::max(enter, std::min(a, b)), leave = std::min(leave, std::max(a, b));
        }
        if (enter < leave && enter < nearest) nearest = enter, found = int(i);
    }
    return found;
}

void MapView::putAt(const glm::dvec3& at) {
    if (chosen_ < 0) {
        places_.push_back({});
        chosen_ = int(places_.size()) - 1;
    }
    places_[std::size_t(chosen_)].at = at + world_->middle;
    redraw();
}

void MapView::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = lastAt_ = event->position();
    if (event->button() != Qt::LeftButton || !world_) return;
    const auto near = [&](const glm::dvec3& at) {
        const QPointF by = onScreen(at) - pressedAt_;
        return std::hypot(by.x(), by.y()) <= reach;
    };
    const auto grip = grips();
    hold_ = Hold::Click;
    if (grip && near(grip->turn)) {
        hold_ = Hold::Turn;
    } else if (grip && near(grip->lift)) {
        hold_ = Hold::Lift;
    } else if (const int place = placeAt(pressedAt_); place >= 0) {
        if (place != chosen_) {
            chosen_ = place;
            Q_EMIT chose(place);
            redraw();
        }
        hold_ = Hold::Move;
    }
    if (chosen_ >= 0) start_ = places_[std::size_t(chosen_)];
    const double level = hold_ == Hold::Move ? start_.at.y - world_->middle.y : 0;
    if (hold_ == Hold::Move) {
        const auto on = onLevel(pressedAt_, level);
        if (on)
            grabbed_ = *on;
        else
            hold_ = Hold::None;
    }
    if (hold_ == Hold::Move || hold_ == Hold::Lift || hold_ == Hold::Turn) setCursor(Qt::ClosedHandCursor);
}

void MapView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (hold_ != Hold::None && hold_ != Hold::Click && world_ && chosen_ >= 0) {
        MapPlace& place = places_[std::size_t(chosen_)];
        const glm::dvec3 foot = start_.at - world_->middle;
        if (hold_ == Hold::Move) {
            if (const auto on = onLevel(lastAt_, foot.y)) {
                glm::dvec3 to = foot + (*on - grabbed_);
                to.y = foot.y;
                if (standsOnBelow) to.y = world_->below(to).height;
                place.at = to + world_->middle;
            }
        } else if (hold_ == Hold::Turn) {
            if (const auto on = onLevel(lastAt_, foot.y)) {
                const glm::dvec3 way = *on - foot;
                glm::dvec3 angles = steps::anglesOnMap(start_.turn);
                angles.x = std::atan2(way.x, way.z);
                if (event->modifiers() & Qt::ShiftModifier)
                    angles.x = glm::radians(15.0) * std::round(angles.x / glm::radians(15.0));
                place.turn = steps::turnOnMap(angles.x, angles.y, angles.z);
            }
        } else {
            const double scale =
                2 * glm::distance(camera_.eye(), foot) * std::tan(Camera::fieldOfView / 2) / height();
            place.at.y =
                start_.at.y - (lastAt_.y() - pressedAt_.y()) * scale / std::max(0.2, std::cos(camera_.pitch));
        }
        redraw();
    } else if (dragCamera(camera_, event->buttons(), by, height())) {
        camera_.pitch = std::max(lowestPitch, camera_.pitch);
        cameraMoved();
    }
}

void MapView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const Hold held = std::exchange(hold_, Hold::None);
    unsetCursor();
    const QPointF by = event->position() - pressedAt_;
    if (held == Hold::Click && std::hypot(by.x(), by.y()) < 4) {
        if (const auto at = onWorld(event->position())) {
            putAt(*at);
            Q_EMIT changed(chosen_, places_[std::size_t(chosen_)]);
        }
    } else if (held != Hold::None && held != Hold::Click && chosen_ >= 0 &&
               (places_[std::size_t(chosen_)].at != start_.at ||
                places_[std::size_t(chosen_)].turn != start_.turn)) {
        Q_EMIT changed(chosen_, places_[std::size_t(chosen_)]);
    }
}

void MapView::wheelEvent(QWheelEvent* event) {
    if (wheelCamera(camera_, *event, QWidget::size())) cameraMoved();
}

void MapView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_F) return frameChosen();
    if (event->modifiers() & Qt::ShiftModifier && chosen_ >= 0 && world_) {
        constexpr double step = 0.1;
        const glm::dvec3 right = camera_.right(),
                         ahead = -glm::normalize(glm::dvec3(camera_.back().x, 0, camera_.back().z));
        glm::dvec3 by(0);
        if (event->key() == Qt::Key_Left) by = -right;
        if (event->key() == Qt::Key_Right) by = right;
        if (event->key() == Qt::Key_Up) by = ahead;
        if (event->key() == Qt::Key_Down) by = -ahead;
        if (by != glm::dvec3(0)) {
            glm::dvec3 to = places_[std::size_t(chosen_)].at - world_->middle + by * step;
            if (standsOnBelow) to.y = world_->below(to).height;
            putAt(to);
            Q_EMIT changed(chosen_, places_[std::size_t(chosen_)]);
            return;
        }
    }
    if (!keyCamera(camera_, event->key())) return QOpenGLWidget::keyPressEvent(event);
    camera_.pitch = std::max(lowestPitch, camera_.pitch);
    cameraMoved();
}

} // namespace zl::app
