#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// A rough stand-in of about `triangles` triangles for drawing while the camera moves: corners are clustered
/// on a grid (meshoptimizer's sloppy simplifier), materials kept by running each part on its own. Positions,
/// first UV set and parts only; says nothing about how near it stays, so never deliver it.
Mesh lightMesh(const Mesh& mesh, std::size_t triangles);

} // namespace zl::geometry
