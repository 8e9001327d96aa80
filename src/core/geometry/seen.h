#pragma once
#include "core/geometry/ray_scene.h"

namespace zl::geometry {

/// Which of some triangles of `mesh`, which `rays` was made of, show their middle to an eye: one mark a triangle
/// asked for.
std::vector<char> seenFrom(const RayScene& rays, const Mesh& mesh, const glm::dvec3& eye,
                           const std::vector<std::uint32_t>& triangles);

} // namespace zl::geometry
