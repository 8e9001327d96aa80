#include "core/steps/clip_rate.h"

#include "core/geometry/world.h"
#include "core/motion/channel_keys.h"
#include "core/motion/posed.h"
#include "core/steps/changed_clips.h"

#include <glm/gtc/constants.hpp>
#include <tbb/parallel_for.h>

#include <cmath>

namespace zl::steps {

namespace {

using Target = Channel::Target;

/// What one of a channel's units is in metres, as its node stands at rest.
double metresPerUnit(const Model& model, const std::vector<glm::dmat4>& world, const Channel& channel) {
    const int parent = model.nodes[std::size_t(channel.node)].parent;
    const glm::dmat3 above(parent >= 0 ? world[std::size_t(parent)] : model.placement);
    return std::max({glm::length(above[0]), glm::length(above[1]), glm::length(above[2])});
}

struct Off {
    double place = 0, turn = 0;
};

} // namespace

Model ClipRate::apply(const Model& in, StepContext& context) const {
    const auto world = worldMatrices(in);
    const double reach = glm::length(geometry::worldBounds(in).size()) / 2;
    auto facts = nlohmann::json::array();
    Model out = withClipsChanged(in, of, context, [&](const Clip& clip) -> std::shared_ptr<const Clip> {
        const double length = motion::lengthOf(clip);
        std::vector<double> times;
        if (rate > 0)
            for (double i = 0; i <= std::ceil(length * rate - 1e-6); ++i)
                times.push_back(std::min(length, i / rate));
        Clip fewer = clip;
        std::vector<Off> off(clip.channels.size());
        tbb::parallel_for(std::size_t(0), clip.channels.size(), [&](std::size_t c) {
            if (context.progress.isCancelled()) return;
            Channel& channel = fewer.channels[c];
            // A jump between two moments is a jump whatever the rate is.
            if (rate > 0 && channel.curve != Channel::Curve::Step) channel = motion::sampled(channel, times);
            if (!thin) return;
            const double unit = metresPerUnit(in, world, channel);
            const motion::KeyTolerance tolerance{unit > 0 ? place / unit : 0, turn};
            double miss = 0;
            channel = motion::thinned(channel, tolerance.forTarget(channel.target), &miss);
            if (channel.target == Target::Translation) off[c].place = miss * unit;
            if (channel.target == Target::Rotation) off[c].turn = miss;
        });
        context.progress.checkCancel();
        // What holds still to the end needs no key there, but the clip is as long as it was.
        if (!fewer.channels.empty() && motion::lengthOf(fewer) < length)
            fewer.channels[0] = motion::cut(fewer.channels[0], 0, length);
        Off most;
        for (const Off& own : off) most = {std::max(most.place, own.place), std::max(most.turn, own.turn)};
        const std::size_t before = motion::keysOf(clip), after = motion::keysOf(fewer);
        std::string told = fmt::format("{}: {} → {} keys", clip.name, showNumber(double(before), 0),
                                       showNumber(double(after), 0));
        if (thin)
            told += fmt::format(", off by at most {} and {}°",
                                context.showLength(most.place < 1e-5 ? 0 : most.place),
                                showMeasure(glm::degrees(most.turn)));
        context.note(told);
        // A turn is seen at the far end of what it turns: that is half the model at most.
        if (thin) context.lost = std::max(context.lost, most.place + most.turn * reach);
        facts.push_back({{"clip", clip.name}, {"before", before}, {"after", after}});
        return std::make_shared<const Clip>(std::move(fewer));
    });
    context.facts["clips"] = std::move(facts);
    return out;
}

} // namespace zl::steps
