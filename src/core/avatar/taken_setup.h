#pragma once
#include "core/model/model.h"
#include "core/motion/bone_map.h"

namespace zl::avatar {

/// A model with another one's set-up, and what became of it.
struct TakenSetup {
    Model model;
    std::size_t bones = 0, expressions = 0, springs = 0, materials = 0;
    std::vector<std::string> guessed;  ///< "theirs → own": by more than a name, and to be looked at first
    std::vector<std::string> missing;  ///< roles, morph targets and materials of it that have nothing here
    std::vector<std::string> leftOver; ///< morph targets of this one that no expression of it moves
};

/// Carries the set-up of `from` over to `to`: nodes by `bones`, other nodes by name; morph targets by name,
/// then by names that mean the same, then by what they move and where to (no farther apart than a twentieth
/// of the figure, less than 40° in direction); materials by name, with what their files say of them beyond
/// the usual. Places in a bone's space are turned and scaled as the bones differ at rest. Nothing of it
/// refers to `from`. `from` must have a set-up.
TakenSetup takenSetup(const Model& from, const Model& to, const motion::BoneMap& bones);

} // namespace zl::avatar
