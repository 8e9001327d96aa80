#pragma once
#include "core/model/mesh.h"

#include <span>

namespace zl::geometry {

/// A rough stand-in of about `triangles` triangles for drawing while the camera moves: corners are clustered
/// on a grid (meshoptimizer's sloppy simplifier), materials kept by running each part on its own. Positions,
/// first UV set and parts only; says nothing about how near it stays, so never deliver it.
Mesh lightMesh(const Mesh& mesh, std::size_t triangles);

/// About `triangles` of the triangles' number, on some of the same corners: collapsed edge by edge
/// (meshoptimizer's simplifier), or clustered where seams do not let that go so far.
std::vector<std::uint32_t> lightIndices(std::span<const glm::vec3> positions,
                                        std::span<const std::uint32_t> indices, std::size_t triangles);

} // namespace zl::geometry
