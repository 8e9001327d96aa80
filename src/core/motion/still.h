#pragma once
#include "core/motion/posed.h"

namespace zl::motion {

/// Whether anything could move: bones, clips, or shapes to blend to.
bool canMove(const Model& model);

/// The model as it stands in the pose, with nothing left that could move: no clips, bones, weights or morphs.
/// Nodes that were bones and hold nothing go; the others stand where the pose has them. `pose` is of the same
/// model.
Model stillIn(const Model& model, const Pose& pose);

/// As it stands at rest, skinned meshes as they were bound: what is shown and measured where no clip plays.
Model stillAtRest(const Model& model);

} // namespace zl::motion
