// Pieces that come in several sizes: the same objects with the same corners and triangles in the same order.
#include "core/platform/rules/all_rules.h"

#include "core/geometry/twins.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

namespace {

/// A size that the platform wants and the piece has not; empty when it has all.
std::string missingSize(const Sheet& sheet, const Sizes& sizes) {
    for (const std::string& size : sheet.sizes)
        if (size != sizes.first &&
            std::ranges::find(sizes.others, size, &Sizes::Twin::size) == sizes.others.end())
            return size;
    return {};
}

} // namespace

Finding measureTwinsEqual(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const Sizes& sizes = m.sizes();
    Finding finding;
    finding.canBeTight = false;
    finding.limit = "alike";
    finding.value = double(1 + sizes.others.size());
    finding.measured = "alike";
    finding.note = sizes.others.empty() ? "It comes in one size"
                                        : "All sizes have the same objects, corners and triangles";
    if (const std::string missing = missingSize(sheet, sizes); !missing.empty()) {
        finding.holds = false;
        finding.measured = fmt::format("no {} size", missing);
        finding.note = fmt::format("The {} size is missing: bring it in on Gather", missing);
        return finding;
    }
    for (const Sizes::Twin& twin : sizes.others) {
        const auto report = geometry::comparedTwins(m.model(), twin.model);
        const geometry::TwinObject* object = report.firstUnequal();
        if (!object) continue;
        finding.holds = false;
        finding.measured = "not alike";
        finding.note = report.why({sizes.first.empty() ? "the first size" : sizes.first, twin.size});
        if (object->node[0] < 0) return finding;
        if (object->firstDifference && object->corners[0] == object->corners[1])
            finding.faces.push_back({object->node[0], *object->firstDifference});
        else
            finding.nodes.push_back(object->node[0]);
        return finding;
    }
    return finding;
}

Finding measureBones(const Measures& m, const Sheet&, const RuleSpec& rule) {
    std::size_t most = 0;
    std::string name;
    for (const Skin& skin : m.model().skins)
        if (skin.joints.size() > most) most = skin.joints.size(), name = skin.name;
    Finding finding = atMost(double(most), rule.limit("most", 0), "bone", "bones");
    if (most > 0) finding.note += fmt::format(" in one skin");
    return finding;
}

} // namespace zl::platform
