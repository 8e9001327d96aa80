#pragma once
#include <glm/glm.hpp>

#include <algorithm>

namespace zl::texture {

/// Bytes of a picture on a graphics card with all its smaller levels, at `bits` a pixel.
inline double memoryOf(glm::dvec2 size, double bits = 32) {
    return bits / 8 * 4 / 3 * size.x * size.y;
}

/// A size whose longer edge is at most `mostEdge` (0 for any), each edge at least 1.
inline glm::ivec2 shrunkTo(glm::ivec2 size, int mostEdge) {
    const int edge = std::max(size.x, size.y);
    if (mostEdge <= 0 || edge <= mostEdge) return size;
    return glm::max(glm::ivec2(glm::round(glm::dvec2(size) * (double(mostEdge) / edge))), glm::ivec2(1));
}

} // namespace zl::texture
