#include "core/steps/bone_pairs.h"

namespace zl::steps {

int boneNamed(const Model& model, const std::string& name, const char* whose) {
    for (const int bone : motion::bonesOf(model))
        if (model.nodes[std::size_t(bone)].name == name) return bone;
    throw Error(fmt::format("{} has no bone \"{}\"", whose, name), {}, "Choose among its bones.");
}

void putByHand(motion::BoneMap& map, const std::vector<BonePair>& pairs, const Model& from, const Model& to) {
    for (const BonePair& pair : pairs) {
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
