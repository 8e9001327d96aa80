#include "core/steps/stand_still.h"

#include "core/base/units.h"
#include "core/motion/still.h"
#include "core/steps/clip_meant.h"
#include "core/steps/lost_tangents.h"

#include <set>

namespace zl::steps {

Model StandStill::apply(const Model& in, StepContext& context) const {
    if (!motion::canMove(in)) {
        context.note("nothing could move");
        return in;
    }
    const bool atRest = clip.name.empty();
    const Clip* taken = atRest ? nullptr : in.clips[std::size_t(clipMeant(in, clip))].get();
    std::size_t morphs = 0;
    for (const auto& mesh : in.meshes) morphs += mesh->morphs.size();
    std::set<int> bones;
    for (const Skin& skin : in.skins) bones.insert(skin.joints.begin(), skin.joints.end());
    context.facts = {{"bones", bones.size()}, {"clips", in.clips.size()}};
    context.note(fmt::format(
        "as it stands {}; {}, {} with all keys and {} taken out",
        atRest ? "at rest" : fmt::format("in \"{}\" at {} s", clip.name, showMeasure(moment)),
        showCount(long(bones.size()), "bone", "bones"), showCount(long(in.clips.size()), "clip", "clips"),
        showCount(long(morphs), "morph", "morphs")));
    Model out = taken ? motion::stillIn(in, motion::posed(in, *taken, moment)) : motion::stillAtRest(in);
    noteLostTangents(in, out, context);
    return out;
}

} // namespace zl::steps
