// What the view does with the mouse and the keys.
#include "app/view/camera_hands.h"
#include "app/view/model_view.h"

namespace zl::app {

std::optional<Pick> ModelView::pick(QPointF pixel) const {
    return scene() ? pickAt(*scene(), camera_, size(), pixel) : std::nullopt;
}

std::optional<glm::dvec3> ModelView::pointNear(QPointF pixel) const {
    const auto under = pick(pixel);
    if (!under) return std::nullopt;
    return snappedToCorner(*scene(), camera_, size(), pixel, *under);
}

QPointF ModelView::onScreen(const glm::dvec3& world) const {
    const glm::dvec3 at = camera_.project(world, width(), height());
    return {at.x, at.y};
}

std::vector<ViewTool*> ModelView::tools() {
    return {&ways_, &spots_, &wipe_, &handles_, &bones_, tool_};
}

void ModelView::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = lastAt_ = event->position();
    if (event->button() != Qt::LeftButton) return;
    holding_ = nullptr;
    for (ViewTool* tool : tools()) {
        if (!tool->press(*this, {pressedAt_, pressedAt_, event->modifiers()})) continue;
        holding_ = tool;
        break;
    }
}

void ModelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (dragCamera(camera_, event->buttons(), by, height())) return moved();
    if (event->buttons() & Qt::LeftButton) {
        if (holding_) holding_->move(*this, {event->position(), pressedAt_, event->modifiers()});
        return;
    }
    Qt::CursorShape cursor = Qt::ArrowCursor;
    for (ViewTool* tool : tools())
        if (const auto wanted = tool->hover(*this, event->position())) {
            cursor = *wanted;
            break;
        }
    setCursor(cursor);
}

void ModelView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    if (ViewTool* held = std::exchange(holding_, nullptr))
        held->release(*this, {event->position(), pressedAt_, event->modifiers()});
    redraw();
}

void ModelView::wheelEvent(QWheelEvent* event) {
    if (wheelCamera(camera_, *event, size())) moved();
}

bool ModelView::pressKey(const QKeyEvent& event) {
    for (ViewTool* tool : tools())
        if (tool->key(*this, event, true)) return true;
    if (event.key() == Qt::Key_F)
        frameAll();
    else if (event.modifiers() == Qt::NoModifier && event.key() == Qt::Key_A)
        lookFrom(From::Ahead);
    else if (event.modifiers() == Qt::NoModifier && event.key() == Qt::Key_S)
        lookFrom(From::Side);
    else if (event.modifiers() == Qt::NoModifier && event.key() == Qt::Key_T)
        lookFrom(From::Above);
    else if (event.key() == Qt::Key_Escape && tool_ != &look_)
        setTool(nullptr);
    else if (event.key() == Qt::Key_B && !event.isAutoRepeat())
        holdingBefore_ = true, moved();
    else
        return false;
    return true;
}

bool ModelView::releaseKey(const QKeyEvent& event) {
    for (ViewTool* tool : tools())
        if (tool->key(*this, event, false)) return true;
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
