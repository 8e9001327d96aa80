#pragma once
#include <QMatrix4x4>

#include <glm/mat4x4.hpp>

namespace zl::app {

/// A matrix as Qt's shader programs take it.
inline QMatrix4x4 qt(const glm::mat4& m) {
    QMatrix4x4 out;
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 4; ++r) out(r, c) = m[c][r];
    return out;
}

} // namespace zl::app
