#include "core/steps/rest_pose.h"

#include "core/avatar/t_pose.h"
#include "core/base/units.h"
#include "core/motion/apart.h"
#include "core/motion/rest_pose.h"
#include "core/steps/clip_meant.h"

namespace zl::steps {

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
    if (take == Take::Level) {
        const auto off = avatar::offTPose(in);
        if (!off) {
            context.fellShort("its arms and legs are not all named: set it up as an avatar first");
            return in;
        }
        Model out = motion::withRestFrom(in, avatar::tPose(in), 0);
        context.facts = {{"armDegrees", off->armDegrees}, {"legDegrees", off->legDegrees}};
        context.note(fmt::format("arms were {}° off level and legs {}° off straight down; clips stay right",
                                 showNumber(off->armDegrees, 1), showNumber(off->legDegrees, 1)));
        return out;
    }
    if (clip.name.empty()) {
        context.note("no clip or pose is named");
        return in;
    }
    Model out = motion::withRestFrom(in, *in.clips[std::size_t(clipMeant(in, clip))], moment);
    const double off = motion::farthestApartInClips(in, out, context.progress);
    context.facts = {{"clipsOffMetres", off}};
    context.note(fmt::format("at rest as in \"{}\" at {} s; clips are off by at most {}", clip.name,
                             showMeasure(moment), context.showLength(off < 1e-5 ? 0 : off)));
    return out;
}

} // namespace zl::steps
