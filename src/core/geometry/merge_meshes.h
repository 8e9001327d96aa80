#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// Several meshes as one, one after the other. An attribute that only some have is filled in for the rest:
/// normals are worked out, UVs and morph offsets are zero, colours white, weights none; morph targets of one
/// name become one. Tangents stay only where all have them. `lost`, when given, receives what was left out.
Mesh merged(const std::vector<Mesh>& meshes, std::vector<std::string>* lost = nullptr);

} // namespace zl::geometry
