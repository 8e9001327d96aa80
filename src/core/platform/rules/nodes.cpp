// Rules about the tree of nodes: no transform that is not baked in, no nodes that show nothing, a known
// front.
#include "core/platform/rules/all_rules.h"

#include "core/geometry/bake.h"
#include "core/geometry/parts.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureNoTransforms(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    Finding finding;
    std::string first;
    const bool placed = geometry::carriesTransform(model.placement);
    for (int n = 0; n < static_cast<int>(model.nodes.size()); ++n) {
        const Node& node = model.nodes[n];
        if (!geometry::carriesTransform(node.local) && !(placed && node.parent < 0)) continue;
        if (first.empty()) first = node.name;
        finding.value += 1;
        finding.nodes.push_back(n);
    }
    finding.holds = finding.value == 0;
    finding.canBeTight = false;
    finding.measured = finding.holds ? "baked" : fmt::format("{} carry one", showNumber(finding.value, 0));
    finding.limit = "none";
    finding.note =
        finding.holds
            ? "No node carries a transform"
            : fmt::format("{} a transform, \"{}\" first",
                          showCount(static_cast<long long>(finding.value), "node carries", "nodes carry"),
                          first);
    return finding;
}

Finding measureNoWrappers(const Measures& m, const Sheet&, const RuleSpec&) {
    Finding finding;
    geometry::withoutWrappers(m.model(), &finding.nodes);
    finding.value = double(finding.nodes.size());
    finding.holds = finding.nodes.empty();
    finding.canBeTight = false;
    finding.measured = finding.holds ? "none" : showNumber(finding.value, 0);
    finding.limit = "none";
    finding.note =
        finding.holds
            ? "No node is there only to hold others"
            : fmt::format("{} nothing, \"{}\" first",
                          showCount(static_cast<long long>(finding.nodes.size()), "node shows", "nodes show"),
                          m.model().nodes[finding.nodes[0]].name);
    return finding;
}

Finding measureHeadingKnown(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    Finding finding;
    finding.holds = m.model().headingKnown;
    finding.value = finding.holds ? 1 : 0;
    finding.measured = finding.holds ? sheet.front : "not said";
    finding.limit = "a known front";
    finding.note = finding.holds ? fmt::format("Its front will face {}", sheet.front)
                                 : "Nobody said which way its front points";
    return finding;
}

} // namespace zl::platform
