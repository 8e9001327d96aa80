#include "core/steps/trim_clips.h"

#include "core/motion/channel_keys.h"
#include "core/motion/posed.h"
#include "core/steps/changed_clips.h"

namespace zl::steps {

Model TrimClips::apply(const Model& in, StepContext& context) const {
    return withClipsChanged(in, of, context, [&](const Clip& clip) -> std::shared_ptr<const Clip> {
        const double length = motion::lengthOf(clip), end = to > 0 ? std::min(to, length) : length;
        if (from >= end) {
            context.fellShort(
                fmt::format("{} is {} s long and stays as it is", clip.name, showMeasure(length)));
            return nullptr;
        }
        Clip out{clip.name, {}, clip.way * ((end - from) / length)};
        for (const Channel& channel : clip.channels) out.channels.push_back(motion::cut(channel, from, end));
        context.note(fmt::format("{}: {} s → {} s", clip.name, showMeasure(length), showMeasure(end - from)));
        return std::make_shared<const Clip>(std::move(out));
    });
}

} // namespace zl::steps
