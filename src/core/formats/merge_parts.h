#pragma once
#include "core/model/mesh.h"

namespace zl::formats {

/// Joins meshes of one node (one a material, as glTF and several others store them) into one mesh with
/// parts. An attribute that only some have is filled in for the rest: normals point up, UVs are zero, colours
/// white, weights none.
Mesh mergedParts(const std::vector<Mesh>& parts);

} // namespace zl::formats
