// Parts that reach into one another. Each face that does is named, so that a view can light it.
#include "core/platform/rules/all_rules.h"

#include "core/geometry/clipping.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureClipping(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const double within = rule.limit("within", 0) * sheet.metresPerUnit;
    std::vector<int> nodeOfTriangle;
    const Mesh flat = geometry::flattened(m.model(), &nodeOfTriangle);
    const auto bodies = geometry::bodiesOf(m.model(), flat, nodeOfTriangle);
    bool cutShort = false;
    const auto found = geometry::overlapsAmong(bodies, within, {}, &cutShort);
    const char* unseen = cutShort ? "; so many parts lie in one heap that not all pairs were looked at" : "";
    Finding finding;
    finding.canBeTight = false;
    finding.holds = found.empty();
    finding.limit = fmt::format("of {}", sheet.showLength(within));
    if (found.empty()) {
        finding.measured = "none";
        finding.note = fmt::format("No part reaches into another{}", unseen);
        return finding;
    }
    finding.value = found[0].deepest / sheet.metresPerUnit;
    finding.measured = sheet.showLength(found[0].deepest);
    finding.share = within > 0 ? found[0].deepest / within : 2;
    finding.note = fmt::format(
        "\"{}\" reaches {} into \"{}\"{}{}", bodies[found[0].a].name(), sheet.showLength(found[0].deepest),
        bodies[found[0].b].name(),
        found.size() > 1 ? fmt::format("; {} more", showCount(long(found.size() - 1), "pair", "pairs")) : "",
        unseen);
    for (const geometry::Overlap& overlap : found)
        for (const auto& [body, faces] :
             {std::pair{overlap.a, &overlap.facesOfA}, std::pair{overlap.b, &overlap.facesOfB}})
            for (std::size_t t = 0; t < faces->size(); ++t)
                if ((*faces)[t]) finding.faces.push_back({bodies[body].node(), std::uint32_t(t)});
    return finding;
}

} // namespace zl::platform
