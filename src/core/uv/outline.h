#pragma once
#include "core/uv/islands.h"

namespace zl::uv {

/// The borders of an island as closed loops of places on the picture, outer and inner ones alike; where
/// triangles of an island lie over each other, or three share an edge, loops may cross. The even-odd rule
/// fills an island that does not.
std::vector<std::vector<glm::vec2>> outlineOf(const UvFaces& faces, const UvIsland& island);

} // namespace zl::uv
