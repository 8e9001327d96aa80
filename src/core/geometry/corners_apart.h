#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// The mesh with a corner of its own for every kind of triangle that uses it, so that each kind can be given
/// other UVs: a corner that triangles of two kinds share becomes two alike. `kind` has an entry a triangle.
/// Triangles keep their order and get `wear`, an entry each; corners that no triangle uses go. Linear.
Mesh cornersApart(const Mesh& mesh, const std::vector<int>& kind, const std::vector<Wear>& wear);

/// The same with every triangle in its place and what it wears, also where those are not sorted.
Mesh cornersInOrder(const Mesh& mesh, const std::vector<int>& kind);

} // namespace zl::geometry
