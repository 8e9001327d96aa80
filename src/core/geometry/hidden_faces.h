#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::geometry {

/// Which triangles of a model cannot be seen from anywhere outside: one mark a triangle for each node that
/// shows a mesh. A triangle is seen when one of `rays` directions, spread evenly over the sphere, leads from
/// one of several places on it to the outside without meeting another; a place is as good from either side.
/// What is seen only through a gap narrower than the directions are apart (about 7° with 256 of them) can be
/// taken for hidden; `wholePartsOnly` keeps every part that hangs together and of which anything is seen.
/// The same model gives the same marks, however many threads there are.
std::vector<std::vector<char>> hiddenFaces(const Model& model, bool wholePartsOnly, int rays = 256,
                                           const Progress& progress = {});

} // namespace zl::geometry
