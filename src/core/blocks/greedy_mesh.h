#pragma once
#include "core/model/block_build.h"
#include "core/model/model.h"

namespace zl::blocks {

/// What is seen of a hull, in its own metres: a run of triangles for each paint that is used, in their order
/// (material −1 where it has none). Whole sides that are alike and side by side are one rectangle, each as
/// wide and then as high as it goes; slopes stand by themselves. Edges may meet the middle of others. Without
/// `merges` every block's sides stand by themselves too.
Mesh greedyMesh(const Hull& hull, bool merges = true);

/// The hull as a model: one object that shows it, a material a paint.
Model modelOf(Hull hull, const std::string& name);

/// A model that shows a build, with another in its place; as it is where that has no block.
Model showing(Hull hull, const Model& of);

} // namespace zl::blocks
