#include "core/steps/rest_pose.h"

#include "core/base/words.h"
#include "core/geometry/world.h"
#include "core/motion/posed.h"
#include "core/motion/rest_pose.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// How far apart two models are in their clips alone: at rest they are meant to be.
double apartInClips(const Model& a, const Model& b, const Progress& progress) {
    const Mesh restA = geometry::flattened(a), restB = geometry::flattened(b);
    Mesh posedA = restA, posedB = restB;
    double most = 0;
    for (std::size_t c = 0; c < a.clips.size(); ++c)
        for (int k = 0; k < 12; ++k) {
            progress.checkCancel();
            const double at = motion::lengthOf(*a.clips[c]) * k / 11;
            motion::poseFlattened(a, motion::posed(a, *a.clips[c], at), posedA);
            motion::poseFlattened(b, motion::posed(b, *b.clips[c], at), posedB);
            for (std::size_t v = 0; v < std::min(posedA.vertexCount(), posedB.vertexCount()); ++v)
                most = std::max(most, double(glm::distance(posedA.positions[v], posedB.positions[v])));
        }
    return most;
}

} // namespace

Model RestPose::apply(const Model& in, StepContext& context) const {
    if (take == Take::Bound) {
        const auto off = motion::offBind(in);
        if (in.skins.empty() || (off.place < 1e-6 && off.turn < 1e-6)) {
            context.note(in.skins.empty() ? "there are no bones"
                                          : "the bones are at rest as they were bound");
            return in;
        }
        context.note(fmt::format("\"{}\" was {}° and {} from where it was bound",
                                 in.nodes[std::size_t(off.node)].name, showNumber(glm::degrees(off.turn), 1),
                                 context.showLength(off.place)));
        return motion::withRestAsBound(in);
    }
    if (clip.name.empty()) {
        context.note("no clip or pose is named");
        return in;
    }
    const auto found =
        std::ranges::find_if(in.clips, [&](const auto& one) { return one->name == clip.name; });
    if (found == in.clips.end()) {
        std::vector<std::string> names;
        for (const auto& one : in.clips) names.push_back(one->name);
        throw Error(fmt::format("no clip is called \"{}\"", clip.name), {},
                    names.empty() ? "Make one with the step Pose." : "Choose " + showNames(names) + ".");
    }
    Model out = motion::withRestFrom(in, **found, moment);
    const double off = apartInClips(in, out, context.progress);
    context.facts = {{"clipsOffMetres", off}};
    context.note(fmt::format("at rest as in \"{}\" at {} s; clips are off by at most {}", clip.name,
                             showMeasure(moment), context.showLength(off < 1e-5 ? 0 : off)));
    return out;
}

} // namespace zl::steps
