// What the pointer, the keys and what is dropped do to a stand-in's arena.
#include "app/view/tryout_view.h"

#include "app/qt_text.h"
#include "app/view/camera_hands.h"

#include <QApplication>
#include <QFileInfo>
#include <QMimeData>

namespace zl::app {

void TryoutView::dragEnterEvent(QDragEnterEvent* event) {
    const auto urls = event->mimeData()->urls();
    const bool picture = urls.size() == 1 && QFileInfo(urls[0].toLocalFile()).isFile() &&
                         !urls[0].toLocalFile().endsWith(".zestloom");
    if (arena_ && !arena_->takesPictureOn().empty() && picture)
        event->acceptProposedAction();
    else
        event->ignore(); // the window knows what to do with it
}

void TryoutView::dropEvent(QDropEvent* event) {
    if (!arena_ || event->mimeData()->urls().isEmpty()) return event->ignore();
    const QPointF at = event->position();
    const int item =
        arena_->itemAt(glm::vec3(camera_.eye()), glm::vec3(camera_.ray(at.x(), at.y(), width(), height())));
    if (item < 0) {
        Q_EMIT refusedPicture(tr("There is no %1 under the pointer; drop the picture onto the thing.")
                                  .arg(qs(arena_->takesPictureOn())));
        return;
    }
    dress(event->mimeData()->urls().first().toLocalFile(), item);
    event->acceptProposedAction();
}

void TryoutView::mousePressEvent(QMouseEvent* event) {
    lastAt_ = pressedAt_ = event->position();
    if (event->button() != Qt::LeftButton || !arena_) return;
    const glm::dvec3 direction = camera_.ray(lastAt_.x(), lastAt_.y(), width(), height());
    if (!arena_->physics().grab(glm::vec3(camera_.eye()), glm::vec3(direction))) return;
    setCursor(Qt::ClosedHandCursor);
    wake();
}

void TryoutView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (arena_ && arena_->physics().holding()) {
        arena_->physics().carry(glm::vec3(camera_.eye()),
                                glm::vec3(camera_.ray(lastAt_.x(), lastAt_.y(), width(), height())));
    } else if (dragCamera(camera_, event->buttons(), by, height())) {
        camera_.pitch = std::max(0.03, camera_.pitch); // not below the floor
        redraw();
    } else if (arena_) {
        arena_->pointAt(glm::vec3(camera_.eye()),
                        glm::vec3(camera_.ray(lastAt_.x(), lastAt_.y(), width(), height())));
    }
}

void TryoutView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !arena_) return;
    const QPointF at = event->position();
    const bool held = arena_->physics().holding();
    arena_->physics().release();
    unsetCursor();
    if (held || (at - pressedAt_).manhattanLength() > QApplication::startDragDistance()) return;
    if (arena_->click(arena_->itemAt(glm::vec3(camera_.eye()),
                                     glm::vec3(camera_.ray(at.x(), at.y(), width(), height())))))
        Q_EMIT dressed();
    wake();
}

void TryoutView::wheelEvent(QWheelEvent* event) {
    if (wheelCamera(camera_, *event, size())) redraw();
}

void TryoutView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_F) return frameAll();
    if (arena_ && arena_->isWalked() && walkKey(event->key(), true)) return;
    if (!keyCamera(camera_, event->key())) return QOpenGLWidget::keyPressEvent(event);
    camera_.pitch = std::max(0.03, camera_.pitch);
    redraw();
}

void TryoutView::keyReleaseEvent(QKeyEvent* event) {
    if (!event->isAutoRepeat() && walkKey(event->key(), false)) return;
    QOpenGLWidget::keyReleaseEvent(event);
}

void TryoutView::focusOutEvent(QFocusEvent* event) {
    walkKeys_.clear();
    walk();
    QOpenGLWidget::focusOutEvent(event);
}

bool TryoutView::walkKey(int key, bool down) {
    if (key != Qt::Key_Left && key != Qt::Key_Right && key != Qt::Key_Up && key != Qt::Key_Down) return false;
    if (down)
        walkKeys_.insert(key);
    else
        walkKeys_.erase(key);
    walk();
    return true;
}

void TryoutView::walk() {
    if (!arena_ || !arena_->isWalked()) return;
    const auto pressed = [&](int key) { return walkKeys_.contains(key) ? 1.0 : 0.0; };
    const glm::dvec3 ahead(-std::sin(camera_.yaw), 0, -std::cos(camera_.yaw));
    const glm::dvec3 way = ahead * (pressed(Qt::Key_Up) - pressed(Qt::Key_Down)) +
                           camera_.right() * (pressed(Qt::Key_Right) - pressed(Qt::Key_Left));
    const double length = glm::length(way);
    arena_->walk(length > 0 ? glm::vec2(glm::dvec2(way.x, way.z) / length) : glm::vec2(0));
    if (length > 0) wake();
}

} // namespace zl::app
