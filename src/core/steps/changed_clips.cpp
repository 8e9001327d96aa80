#include "core/steps/changed_clips.h"

#include "core/base/pattern.h"

namespace zl::steps {

Model withClipsChanged(const Model& in, const PartNames& of, StepContext& context,
                       const std::function<std::shared_ptr<const Clip>(const Clip&)>& change) {
    Model out = in;
    if (in.clips.empty()) {
        context.note("there are no clips");
        return out;
    }
    const NamePatterns wanted(of.patterns);
    bool some = false;
    for (std::size_t c = 0; c < out.clips.size(); ++c) {
        if (!wanted.match(in.clips[c]->name)) continue;
        some = true;
        context.progress.report(double(c) / double(out.clips.size()), in.clips[c]->name);
        context.progress.checkCancel();
        if (auto changed = change(*in.clips[c])) out.clips[c] = std::move(changed);
    }
    if (!some) context.fellShort(fmt::format("no clip is called {}", patternsText(of.patterns)));
    return out;
}

} // namespace zl::steps
