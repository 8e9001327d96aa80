#pragma once
#include "core/motion/bone_map.h"
#include "core/steps/step.h"

namespace zl::steps {

/// The bone of that name; throws Error naming whose it is not.
int boneNamed(const Model& model, const std::string& name, const char* whose);

/// Puts pairs of bones that somebody named before those that were found. A pair without an own bone leaves
/// the other one unmatched.
template <class Pair>
void putByHand(motion::BoneMap& map, const std::vector<Pair>& pairs, const Model& from, const Model& to) {
    for (const Pair& pair : pairs) {
        if (pair.theirs.name.empty()) continue;
        const int theirs = boneNamed(from, pair.theirs.name, "the other piece");
        const int own = pair.own.name.empty() ? -1 : boneNamed(to, pair.own.name, "the piece");
        std::erase_if(map.matches, [&](const motion::BoneMatch& m) {
            return m.from == theirs || (own >= 0 && m.to == own);
        });
        std::erase(map.leftFrom, theirs), std::erase(map.leftTo, own);
        if (own >= 0)
            map.matches.push_back({theirs, own, motion::BoneMatch::By::Name});
        else
            map.leftFrom.push_back(theirs);
    }
}

} // namespace zl::steps
