#pragma once
#include "core/model/mesh.h"

namespace zl::formats {

/// Whether triangles stand on some of the mesh's corners and not on others. A cloud of points has none of
/// them.
bool hasStrayCorners(const Mesh& mesh);

/// The mesh without stray corners and without what breaks the promises of Mesh; `warnings` receives what was
/// left out and how much of it. Throws Error when the lengths of its arrays disagree, for then nothing can be
/// made of it.
Mesh mendedMesh(Mesh mesh, std::vector<std::string>& warnings);

} // namespace zl::formats
