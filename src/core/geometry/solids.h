#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// Axis-aligned box, 12 triangles, 8 shared corners, facing outward.
Mesh boxMesh(const glm::dvec3& min, const glm::dvec3& max);

/// Upright cylinder of `sides` flat faces whose corners lie on the circle; 4·sides − 4 triangles, no middle
/// vertices, facing outward. `foot` is the middle of its bottom.
Mesh cylinderMesh(const glm::dvec3& foot, double radius, double height, int sides);

} // namespace zl::geometry
