#pragma once
#include <glm/glm.hpp>

#include <optional>
#include <vector>

namespace zl::texture {

/// Places for rectangles, unturned, in one of `into` units (at most 16384 along each edge): the corner of
/// least coordinates of each. Nothing when they do not fit. Packed by stb_rect_pack (skyline, best fit).
std::optional<std::vector<glm::ivec2>> packedRectangles(const std::vector<glm::ivec2>& sizes,
                                                        glm::ivec2 into);

} // namespace zl::texture
