// Levels of detail: how many coarser copies there are, and how coarse each is.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/base/plain_number.h"
#include "core/geometry/levels.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureLevels(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const Model& model = m.model();
    const int count = geometry::levelCount(model), least = int(rule.limit("least", 1));
    std::vector<std::size_t> triangles(std::size_t(count), 0);
    for (const Node& node : model.nodes)
        if (node.mesh >= 0)
            triangles[std::size_t(node.level)] += model.meshes[std::size_t(node.mesh)]->triangleCount();
    Finding finding;
    finding.value = count;
    finding.canBeTight = false;
    finding.holds = count >= least;
    finding.measured = fmt::format("{}", showCount(count, "level", "levels"));
    finding.limit = fmt::format("at least {}", least);
    std::string each;
    for (const std::size_t t : triangles) each += (each.empty() ? "" : ", ") + showNumber(double(t), 0);
    finding.note = fmt::format("{} of {} triangles", showCount(count, "level", "levels"), each);
    const auto limits = rule.texts.find("most");
    if (limits == rule.texts.end() || limits->second.empty()) return finding;
    const auto most = patternsFrom(limits->second);
    // What is no more than the farthest level may be needs none.
    if (const auto last = onlyNumber<double>(most.back());
        last && double(triangles[0]) <= *last && !finding.holds) {
        finding.holds = true;
        finding.note = fmt::format("{} triangles are few enough to be seen from afar",
                                   showNumber(double(triangles[0]), 0));
    }
    for (std::size_t i = 0; i < std::min(most.size(), triangles.size()); ++i) {
        const auto number = onlyNumber<double>(most[i]);
        if (!number || double(triangles[i]) <= *number) continue;
        finding.holds = false;
        finding.note = fmt::format("Level {} has {} triangles, and {} are allowed", i,
                                   showNumber(double(triangles[i]), 0), showNumber(*number, 0));
        break;
    }
    return finding;
}

} // namespace zl::platform
