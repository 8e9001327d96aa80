#pragma once
#include <glm/glm.hpp>

#include <cstdint>
#include <vector>

namespace zl::geometry {

/// Fewer triangles by meshoptimizer's edge collapse: at most `wanted` of them where the shape allows it,
/// deviating by no more than its estimate `mostError` (share of the mesh's extent; FLT_MAX for no bound).
/// `lockBorder` keeps open borders. Triangles are of `positions`; corners that are to be told apart are
/// different ones.
///
/// Many triangles that become few, without a bound, go through in two rounds: first four slabs along the
/// longest axis beside each other, with the borders between them held, to half as much again as is wanted;
/// then all together. The slabs do not depend on the number of threads, so neither does the result.
std::vector<std::uint32_t> collapsed(const std::vector<std::uint32_t>& indices,
                                     const std::vector<glm::vec3>& positions, std::size_t wanted,
                                     float mostError, bool lockBorder);

} // namespace zl::geometry
