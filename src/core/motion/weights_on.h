#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// How much each corner hangs on a bone, 0 to 1, in the order of geometry::flattened's corners; 0 for what
/// hangs on no bones.
std::vector<float> weightsOn(const Model& model, int bone);

/// The bone that most corners hang on, by their weights; -1 without any.
int heaviestBone(const Model& model);

} // namespace zl::motion
