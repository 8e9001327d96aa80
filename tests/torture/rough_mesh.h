#pragma once
#include "core/model/mesh.h"
#include "dice.h"

namespace torture {

/// Triangles as others make them: strips of neighbouring slivers, doubles, Möbius bands, edges of three
/// triangles, cones of many normals, loose blades, plates with T-junctions, single triangles, none at all,
/// all corners in one place, coordinates huge and tiny, corners that nobody uses. No attributes and no
/// materials yet.
zl::Mesh roughTriangles(Dice& dice);

/// Normals (also of no length), UV sets, tangents, colours, bones and morph targets, each there or not.
void addRoughAttributes(zl::Mesh& mesh, Dice& dice, std::size_t bones);

} // namespace torture
