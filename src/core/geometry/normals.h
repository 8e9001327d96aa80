#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// The mesh with normals computed anew: corners at one place share a normal where their faces meet at less
/// than `creaseRadians`, weighted by corner angle (Thürmer & Wüthrich 1998); vertices are split at harder
/// edges.
Mesh withNormals(const Mesh& mesh, double creaseRadians = 0.7);

/// Unnormalised face normal (length is twice the area).
glm::vec3 faceNormal(const Mesh& mesh, std::size_t triangle);

} // namespace zl::geometry
