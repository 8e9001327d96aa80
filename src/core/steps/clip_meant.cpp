#include "core/steps/clip_meant.h"

#include "core/base/error.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::steps {

int clipNamed(const Model& model, std::string_view name) {
    const auto found =
        std::ranges::find_if(model.clips, [&](const auto& clip) { return clip->name == name; });
    return found == model.clips.end() ? -1 : int(found - model.clips.begin());
}

int clipMeant(const Model& model, const fields::ClipRef& ref) {
    const int clip = clipNamed(model, ref.name);
    if (clip >= 0) return clip;
    std::vector<std::string> names;
    for (const auto& one : model.clips) names.push_back(one->name);
    throw Error(fmt::format("no clip is called \"{}\"", ref.name), {},
                names.empty() ? "The model has no clips; the step Pose makes one."
                              : "Choose " + showNames(names) + ".");
}

} // namespace zl::steps
