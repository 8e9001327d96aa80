#pragma once
#include <glm/glm.hpp>

#include <cstdint>
#include <span>
#include <vector>

namespace zl::geometry {

/// Cuts a polygon of three or more corners into triangles, appended to `out` as positions in `corners`
/// (0-based). Quads are cut along the diagonal that keeps both halves facing alike; larger ones by clipping
/// ears in the plane of the polygon's area normal (Newell), so concave ones stay inside their outline.
/// Always gives corners−2 triangles, also for broken input.
void triangulate(std::span<const glm::vec3> corners, std::vector<std::uint32_t>& out);

} // namespace zl::geometry
