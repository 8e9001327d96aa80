#pragma once
#include "core/uv/islands.h"

namespace zl::uv {

/// The islands of one material by part, for drawing.
struct LayoutPart {
    int node = -1;
    std::vector<std::uint32_t> islands; ///< indices, the largest on the picture first
};
std::vector<LayoutPart> layoutParts(const std::vector<UvIsland>& islands, int material);

/// By how many whole pictures an island is moved to begin within the first, where it is drawn: pictures
/// repeat.
glm::vec2 toFirstPicture(const UvIsland& island);

/// Width and height of a layout whose longer edge has `size` pixels.
glm::ivec2 layoutSize(const Model& model, int material, int size);

} // namespace zl::uv
