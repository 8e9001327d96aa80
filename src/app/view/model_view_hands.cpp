// What the view does with the mouse and the keys.
#include "app/view/camera_hands.h"
#include "app/view/model_view.h"

namespace zl::app {

std::optional<Pick> ModelView::pick(QPointF pixel) const {
    return after_.scene ? pickAt(*after_.scene, camera_, size(), pixel) : std::nullopt;
}

glm::dvec3 ModelView::measuringPoint(QPointF pixel, const Pick& pick) const {
    return snappedToCorner(*after_.scene, camera_, size(), pixel, pick);
}

int ModelView::handleAt(QPointF pixel) const {
    if (!showCollider) return -1;
    for (std::size_t i = 0; i < handles_.size(); ++i) {
        const glm::dvec3 at = camera_.project(handles_[i].at, width(), height());
        if (std::hypot(at.x - pixel.x(), at.y - pixel.y()) < 11) return int(i);
    }
    return -1;
}

const Handle* ModelView::draggedHandle() const {
    for (const Handle& handle : handles_)
        if (handle.id == draggedHandle_) return &handle;
    return nullptr; // none is held, or its step went away meanwhile
}

void ModelView::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = lastAt_ = event->position();
    if (event->button() != Qt::LeftButton) return;
    draggingWipe_ = wipe && before_.scene && std::abs(pressedAt_.x() - wipeX()) < 14;
    const int handle = draggingWipe_ ? -1 : handleAt(pressedAt_);
    draggedHandle_ = handle < 0 ? QString() : handles_[handle].id;
}

void ModelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (dragCamera(camera_, event->buttons(), by, height())) {
        moved();
    } else if (draggingWipe_) {
        wipeShare_ = std::clamp(event->position().x() / width(), 0.02, 0.98);
        moved();
    } else if (const Handle* held = draggedHandle()) {
        // How far along its axis the handle moves for the pointer's way, by the axis' direction on screen.
        const Handle& handle = *held;
        const double step = camera_.distance * 0.01;
        const glm::dvec3 a = camera_.project(handle.at, width(), height()),
                         b = camera_.project(handle.at + handle.axis * step, width(), height());
        const glm::dvec2 axis(b.x - a.x, b.y - a.y);
        const QPointF way = event->position() - pressedAt_;
        if (glm::length(axis) > 1e-6)
            Q_EMIT handleDragged(handle.id,
                                 (way.x() * axis.x + way.y() * axis.y) / glm::dot(axis, axis) * step, false);
    } else if (!draggedHandle_.isEmpty()) {
        return; // what was held is gone; the hand waits to be let go
    } else if (event->buttons() & Qt::LeftButton) {
        if (tool_ != Tool::Look || (event->position() - pressedAt_).manhattanLength() < 5) return;
        band_ = QRectF(pressedAt_, event->position()).normalized();
        overlay_->update();
    } else if (tool_ == Tool::Measure) {
        const auto under = pick(event->position());
        hovered_ = under ? std::optional(measuringPoint(event->position(), *under)) : std::nullopt;
        overlay_->update();
    } else {
        const bool onWipe = wipe && before_.scene && std::abs(event->position().x() - wipeX()) < 14;
        setCursor(onWipe                             ? Qt::SplitHCursor
                  : handleAt(event->position()) >= 0 ? Qt::SizeAllCursor
                                                     : Qt::ArrowCursor);
    }
}

void ModelView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const bool onView = draggedHandle_.isEmpty() && !draggingWipe_;
    if (!draggedHandle_.isEmpty()) Q_EMIT handleDragged(std::exchange(draggedHandle_, QString()), 0, true);
    draggingWipe_ = false;
    const QRectF band = std::exchange(band_, QRectF());
    if (!onView || !after_.scene) return;
    const bool adding = event->modifiers() & Qt::ShiftModifier;
    if (tool_ == Tool::Look) {
        std::set<int> chosen = adding ? selected_ : std::set<int>();
        if (!band.isEmpty())
            chosen.merge(nodesWithin(*after_.scene, camera_, size(), band));
        else if (const auto under = pick(event->position()))
            chosen.insert(under->node);
        select(std::move(chosen));
    } else if (const auto under = pick(event->position()); under && band.isEmpty()) {
        if (points_.size() == 2) points_.clear();
        points_.push_back(measuringPoint(event->position(), *under));
        Q_EMIT measuredChanged();
    }
    update();
}

void ModelView::wheelEvent(QWheelEvent* event) {
    if (wheelCamera(camera_, *event, size())) moved();
}

bool ModelView::pressKey(const QKeyEvent& event) {
    const bool escape = event.key() == Qt::Key_Escape;
    if (event.key() == Qt::Key_F)
        frameAll();
    else if (event.key() == Qt::Key_M)
        setTool(tool_ == Tool::Measure ? Tool::Look : Tool::Measure);
    else if (escape && tool_ != Tool::Look)
        setTool(Tool::Look);
    else if (escape && !selected_.empty())
        select({});
    else if (event.key() == Qt::Key_B && !event.isAutoRepeat())
        holdingBefore_ = true, moved();
    else
        return false;
    return true;
}

bool ModelView::releaseKey(const QKeyEvent& event) {
    if (event.key() != Qt::Key_B || event.isAutoRepeat()) return false;
    holdingBefore_ = false;
    moved();
    return true;
}

void ModelView::keyPressEvent(QKeyEvent* event) {
    if (pressKey(*event)) return;
    if (keyCamera(camera_, event->key())) return moved();
    QOpenGLWidget::keyPressEvent(event);
}

void ModelView::keyReleaseEvent(QKeyEvent* event) {
    if (!releaseKey(*event)) QOpenGLWidget::keyReleaseEvent(event);
}

} // namespace zl::app
