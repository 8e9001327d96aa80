#include "core/steps/rigid_segments.h"

#include "core/motion/rigid_segments.h"
#include "core/steps/lost_tangents.h"

#include <algorithm>

namespace zl::steps {

Model RigidSegments::apply(const Model& in, StepContext& context) const {
    auto taken = motion::rigidSegments(in, {closed, overlap}, context.progress);
    context.facts = {{"segments", taken.segments},
                     {"borders", taken.borders},
                     {"added", taken.added},
                     {"gapMetres", taken.gap}};
    if (taken.segments == 0) {
        context.note("nothing hangs on bones");
        return in;
    }
    context.note(fmt::format(
        "{}, cut at {}{}", showCount(long(taken.segments), "stiff part", "stiff parts"),
        showCount(long(taken.borders), "place", "places"),
        taken.added > 0 ? fmt::format("; {} added there", showCount(taken.added, "triangle", "triangles"))
                        : std::string()));
    if (!in.clips.empty())
        context.note(taken.gap < 1e-6 ? "no gap opens in any clip"
                                      : fmt::format("the largest gap that opens is {}: at \"{}\" in \"{}\"",
                                                    context.showLength(taken.gap), taken.gapAt, taken.gapIn));
    const bool bends = std::ranges::any_of(taken.model.nodes, [&](const Node& node) {
        if (node.mesh < 0 || node.skin < 0) return false;
        const Mesh& mesh = *taken.model.meshes[std::size_t(node.mesh)];
        return !mesh.weights.empty() && !mesh.indices.empty();
    });
    if (!bends) context.note("the bones are nodes that carry a part each, and no skin");
    if (taken.besideTheirCut > 0)
        context.note(fmt::format("{} not rounded: the joint lies beside the cut",
                                 showCount(long(taken.besideTheirCut), "end is", "ends are")));
    if (taken.morphs > 0)
        context.fellShort(showCount(long(taken.morphs), "morph target goes", "morph targets go") +
                          ", which stiff parts cannot follow");
    noteLostTangents(in, taken.model, context);
    return std::move(taken.model);
}

} // namespace zl::steps
