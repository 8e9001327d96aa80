#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// The joints of all skins, as node indices, each once.
std::vector<int> jointsOf(const Model& model);
/// The joint of this name, or -1; without regard to case where none is called exactly so.
int jointNamed(const Model& model, std::string_view name);

/// The item moved to where it hangs on a joint of `figure` at rest: its own origin comes to the joint's, its
/// axes stay the world's. Throws Error listing the bones when there is none of this name.
Model attachedTo(Model item, const Model& figure, std::string_view bone);

} // namespace zl::motion
