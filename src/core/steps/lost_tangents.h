#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says that tangents went, where shown parts had them and have none now: they follow UVs and normals, and
/// are worked out anew by whoever reads the files.
inline void noteLostTangents(const Model& before, const Model& after, StepContext& context) {
    const auto having = [](const Model& model) {
        std::size_t count = 0;
        for (const Node& node : model.nodes)
            count += node.isShown() && !model.meshes[std::size_t(node.mesh)]->tangents.empty();
        return count;
    };
    const std::size_t was = having(before), is = having(after);
    if (is < was)
        context.note(fmt::format("tangents of {} left out", showCount(long(was - is), "part", "parts")));
}

} // namespace zl::steps
