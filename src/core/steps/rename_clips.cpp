#include "core/steps/rename_clips.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"

namespace zl::steps {

Model RenameClips::apply(const Model& in, StepContext& context) const {
    Model out = in;
    if (in.clips.empty()) {
        context.note("there are no clips");
        return out;
    }
    UniqueNames names;
    for (const auto& clip : in.clips)
        if (!matchPattern(find, clip->name)) names.take(clip->name);
    std::vector<std::string> told;
    int number = 0;
    for (auto& clip : out.clips) {
        const auto captured = matchPattern(find, clip->name);
        if (!captured) continue;
        const std::string wanted = filledTemplate(become, *captured, clip->name, ++number);
        const std::string name = names.made(wanted.empty() ? clip->name : wanted);
        if (name == clip->name) continue;
        told.push_back(clip->name + " → " + name);
        Clip renamed = *clip;
        renamed.name = name;
        clip = std::make_shared<const Clip>(std::move(renamed));
    }
    if (number == 0)
        context.fellShort(fmt::format("no clip is called {}", find));
    else
        context.note(told.empty() ? "all clips are called so already"
                                  : fmt::format("{}", fmt::join(told, "; ")));
    return out;
}

} // namespace zl::steps
