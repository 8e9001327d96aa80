#pragma once
#include "core/model/mesh.h"
#include "core/solids/solid.h"

namespace zl::solids {

/// The mesh of a solid about its middle: what it is exactly where its faces are flat, and with `sides` edges
/// around where they are round (at least 8). `faces` gets the Face of each triangle. Closed, facing outward,
/// and without triangles of no area; UVs run once over each face. Throws Error as demandShape() does.
struct SolidMesh {
    Mesh mesh;
    std::vector<int> faces;
};
SolidMesh meshOf(const Shape& shape, int sides = 48);

/// Its volume in cubic metres by the closed form that the mesh comes near to, without twist and without
/// narrowing (foot and head 1).
double plainVolume(const Shape& shape);

} // namespace zl::solids
