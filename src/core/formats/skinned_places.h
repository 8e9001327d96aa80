#pragma once
#include "core/model/model.h"

namespace zl::formats {

/// Puts the nodes of skinned meshes where their bones show the meshes at rest. glTF 2.0 (3.7.3.3) and others
/// let such a node stand anywhere, for it is not looked at; here it is what sizes are measured by. Nothing
/// that is seen changes. Left as it is: a node that others hang on or that a clip moves, and one whose bones
/// at rest stand otherwise than they were bound, for which there is no such place.
void placeSkinnedMeshes(Model& model);

} // namespace zl::formats
