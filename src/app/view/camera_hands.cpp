#include "app/view/camera_hands.h"

namespace zl::app {

bool dragCamera(Camera& camera, Qt::MouseButtons buttons, QPointF by, int viewHeight) {
    if (buttons & Qt::RightButton)
        camera.turn(by.x(), by.y());
    else if (buttons & Qt::MiddleButton)
        camera.move(by.x(), by.y(), viewHeight);
    else
        return false;
    return true;
}

bool wheelCamera(Camera& camera, const QWheelEvent& event, QSize view) {
    const QPointF at = event.position();
    camera.zoom(std::pow(0.9988, event.angleDelta().y()), at.x() / view.width() * 2 - 1,
                1 - at.y() / view.height() * 2);
    return true;
}

bool keyCamera(Camera& camera, int key) {
    constexpr double turn = 12, nearer = 0.9;
    switch (key) {
    case Qt::Key_Left:
        camera.turn(turn, 0);
        return true;
    case Qt::Key_Right:
        camera.turn(-turn, 0);
        return true;
    case Qt::Key_Up:
        camera.turn(0, turn);
        return true;
    case Qt::Key_Down:
        camera.turn(0, -turn);
        return true;
    case Qt::Key_Plus:
        camera.zoom(nearer, 0, 0);
        return true;
    case Qt::Key_Minus:
        camera.zoom(1 / nearer, 0, 0);
        return true;
    default:
        return false;
    }
}

} // namespace zl::app
