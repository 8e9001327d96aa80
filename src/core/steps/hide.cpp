#include "core/steps/hide.h"

#include "core/base/pattern.h"

namespace zl::steps {

namespace {

/// Triangles of seen skinned parts all of whose corners hang on hidden bones alone.
std::size_t hangingOnHidden(const Model& model) {
    std::size_t count = 0;
    for (const int n : shownNodes(model)) {
        const Node& node = model.nodes[std::size_t(n)];
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        if (node.skin < 0 || mesh.weights.empty()) continue;
        const auto& joints = model.skins[std::size_t(node.skin)].joints;
        const auto hidden = [&](std::uint32_t v) {
            for (int k = 0; k < 4; ++k)
                if (mesh.weights[v][k] > 0 && model.nodes[std::size_t(joints[mesh.joints[v][k]])].visible)
                    return false;
            return true;
        };
        for (std::size_t i = 0; i < mesh.indices.size(); i += 3)
            count += hidden(mesh.indices[i]) && hidden(mesh.indices[i + 1]) && hidden(mesh.indices[i + 2]);
    }
    return count;
}

} // namespace

Model Hide::apply(const Model& in, StepContext& context) const {
    if (of.patterns.empty()) {
        context.note("nothing is named");
        return in;
    }
    Model out = in;
    const NamePatterns wanted(of.patterns);
    std::size_t found = 0;
    for (Node& node : out.nodes) {
        const bool named = wanted.match(node.name);
        found += named;
        if (named || (node.parent >= 0 && !out.nodes[std::size_t(node.parent)].visible)) node.visible = false;
    }
    if (found == 0)
        throw Error(fmt::format("nothing is called \"{}\"", patternsText(of.patterns)), {},
                    "Choose among the model's parts and bones.");
    const std::size_t before = triangleCount(in), after = triangleCount(out);
    context.facts = {{"nodes", found}, {"triangles", before - after}};
    context.note(fmt::format("{}, {} not seen", showCount(long(found), "node stays", "nodes stay"),
                             showCount(long(before - after), "triangle is", "triangles are")));
    if (const std::size_t worn = usedImages(in).size(), seen = usedImages(out).size(); seen < worn)
        context.note(fmt::format("{} by what is hidden alone, and need not go along",
                                 showCount(long(worn - seen), "picture is worn", "pictures are worn")));
    if (const std::size_t skinned = hangingOnHidden(out); skinned > 0)
        context.fellShort(
            fmt::format("{} on hidden bones and stay seen: they are of a part that others carry too",
                        showCount(long(skinned), "triangle hangs", "triangles hang")));
    return out;
}

} // namespace zl::steps
