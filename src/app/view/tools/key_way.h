#pragma once
#include "app/view/camera.h"

#include <QKeyEvent>

#include <cmath>
#include <optional>

namespace zl::app {

/// Which way an arrow key or Page Up or Down moves what is chosen: a step along the axis of the world that is
/// nearest to that way on the screen. Nothing for other keys.
inline std::optional<glm::ivec3> wayOf(const QKeyEvent& event, const Camera& camera) {
    const auto level = [](const glm::dvec3& way, int sign) {
        return std::abs(way.z) > std::abs(way.x) ? glm::ivec3(0, 0, way.z > 0 ? sign : -sign)
                                                 : glm::ivec3(way.x > 0 ? sign : -sign, 0, 0);
    };
    switch (event.key()) {
    case Qt::Key_Right:
        return level(camera.right(), 1);
    case Qt::Key_Left:
        return level(camera.right(), -1);
    case Qt::Key_Up:
        return level(-camera.back(), 1);
    case Qt::Key_Down:
        return level(-camera.back(), -1);
    case Qt::Key_PageUp:
        return glm::ivec3(0, 1, 0);
    case Qt::Key_PageDown:
        return glm::ivec3(0, -1, 0);
    default:
        return std::nullopt;
    }
}

} // namespace zl::app
