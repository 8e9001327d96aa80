#pragma once
#include "core/model/mesh.h"

namespace zl::formats {

/// Whether a mesh from a file keeps what Mesh promises: indices in range, finite corners, parts that cover
/// all triangles. Throws Error when the lengths of its arrays disagree, for then nothing can be made of it.
bool keepsPromises(const Mesh& mesh);

/// The mesh without what breaks those promises; `warnings` receives what was left out and how much of it.
Mesh mendedMesh(Mesh mesh, std::vector<std::string>& warnings);

} // namespace zl::formats
