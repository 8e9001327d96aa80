#include "core/steps/loop_clips.h"

#include "core/motion/loop.h"
#include "core/motion/travel.h"
#include "core/steps/changed_clips.h"

#include <glm/gtc/constants.hpp>

namespace zl::steps {

namespace {

std::string inWords(const motion::LoopError& error, const StepContext& context) {
    const auto seen = [](double value, double least) { return value < least ? 0 : value; };
    return fmt::format("{}° and {}", showMeasure(seen(glm::degrees(error.turn), 0.01)),
                       context.showLength(seen(error.place, 1e-5)));
}

} // namespace

Model LoopClips::apply(const Model& in, StepContext& context) const {
    auto facts = nlohmann::json::array();
    bool goesBack = false;
    Model out = withClipsChanged(in, of, context, [&](const Clip& clip) -> std::shared_ptr<const Clip> {
        const auto before = motion::loopErrorOf(in, clip);
        if (before.isClosed()) {
            context.note(fmt::format("{} closes already", clip.name));
            return nullptr;
        }
        Clip closed = motion::looped(clip, over, travels ? motion::carrierOf(in, clip) : -1);
        const auto after = motion::loopErrorOf(in, closed);
        context.note(fmt::format("{}: the end is off by {}, then by {}", clip.name, inWords(before, context),
                                 inWords(after, context)));
        if (!travels && before.place > 0.01 && before.placed == motion::carrierOf(in, clip)) goesBack = true;
        facts.push_back({{"clip", clip.name},
                         {"turnBefore", before.turn},
                         {"placeBefore", before.place},
                         {"turnAfter", after.turn},
                         {"placeAfter", after.place}});
        return std::make_shared<const Clip>(std::move(closed));
    });
    if (goesBack) {
        context.note("what travels goes back to where it began");
        context.offer("Let it go on from where it ends", {{"travels", true}});
    }
    context.facts["clips"] = std::move(facts);
    return out;
}

} // namespace zl::steps
