#pragma once
#include "core/motion/bone_map.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Two bones that somebody said go together.
struct BonePair {
    fields::BoneRef theirs, own;

    static constexpr auto fields =
        describe(field<&BonePair::theirs>("theirs", "Bone of the other").help("By its name."),
                 field<&BonePair::own>("own", "Goes to").leastIs("none").help("Its counterpart here."));
};

/// The bone of that name; throws Error naming whose it is not.
int boneNamed(const Model& model, const std::string& name, const char* whose);

/// Puts pairs of bones that somebody named before those that were found. A pair without an own bone leaves
/// the other one unmatched.
void putByHand(motion::BoneMap& map, const std::vector<BonePair>& pairs, const Model& from, const Model& to);

} // namespace zl::steps
