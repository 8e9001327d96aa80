// Rules about colliders: how many triangles, where their bottom is, how far they lean before they fall, and
// what the default box would be.
#include "core/platform/rules/all_rules.h"

#include "core/geometry/lean.h"
#include "core/geometry/solids.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::platform {

Finding measureColliderTriangles(const Measures& m, const Sheet&, const RuleSpec& rule) {
    double count = 0;
    for (const Collider& collider : m.model().colliders) count += double(collider.mesh->triangleCount());
    Finding finding = atMost(count, rule.limit("most", 0), "collider triangle", "collider triangles");
    if (m.model().colliders.empty()) {
        finding.measured = "none";
        finding.note = "There is no collider; the platform puts a box around everything";
    }
    return finding;
}

Finding measureColliderBottom(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding;
    const double within = rule.limit("within", 0.01);
    geometry::Bounds bounds;
    for (const Collider& collider : m.model().colliders)
        bounds.add(geometry::meshBounds(*collider.mesh, collider.placement));
    if (bounds.empty()) {
        finding.measured = "none";
        finding.limit = fmt::format("±{}\u202f{}", showNumber(within, 4), sheet.unitName);
        finding.note = "There is no collider of its own";
        return finding;
    }
    const double gap = bounds.min.y - m.bounds().min.y;
    finding.value = gap / sheet.metresPerUnit;
    finding.holds = std::abs(finding.value) <= within + 1e-9;
    finding.measured = finding.holds ? "level" : sheet.showLength(gap);
    finding.limit = fmt::format("±{}\u202f{}", showNumber(within, 4), sheet.unitName);
    finding.note = finding.holds ? "The collider's bottom is level with the model's"
                                 : fmt::format("The collider's bottom is {} {} the model's, so it would {}",
                                               sheet.showLength(std::abs(gap)), gap < 0 ? "below" : "above",
                                               gap < 0 ? "float" : "sink");
    return finding;
}

Finding measureDefaultBox(const Measures& m, const Sheet&, const RuleSpec& rule) {
    Finding finding;
    const double most = rule.limit("most", 1.5);
    finding.limit = fmt::format("up to {}× the foot", showNumber(most));
    if (!m.model().colliders.empty()) {
        finding.measured = m.model().colliders[0].kind;
        finding.note = fmt::format("It has a collider of its own ({})", m.model().colliders[0].kind);
        return finding;
    }
    const auto box = m.bounds().size();
    const auto& foot = m.foot();
    const double wider =
        std::max(foot.width() > 0 ? box.x / foot.width() : 1, foot.depth() > 0 ? box.z / foot.depth() : 1);
    finding.value = wider;
    finding.holds = wider <= most;
    finding.share = most > 0 ? wider / most : 0;
    finding.measured = finding.holds ? showNumber(wider) + "×" : "missing";
    finding.note = fmt::format("No collider: the default box would be {} times as wide as the foot",
                               showNumber(wider, 1));
    return finding;
}

Finding measureLean(const Measures& m, const Sheet&, const RuleSpec& rule) {
    Finding finding;
    const double least = rule.limit("least", 0);
    finding.limit = fmt::format("{}° or more", showNumber(least, 0));
    const auto bounds = m.bounds();
    const bool own = !m.model().colliders.empty();
    if (!own && bounds.empty()) {
        finding.measured = "nothing stands";
        finding.note = "There is nothing that could fall";
        return finding;
    }
    const auto lean =
        own ? geometry::leanBeforeFall(*m.model().colliders[0].mesh, m.model().colliders[0].placement)
            : geometry::leanBeforeFall(geometry::boxMesh(bounds.min, bounds.max));
    finding.value = lean ? std::max(0.0, glm::degrees(*lean)) : 0;
    finding.holds = finding.value >= least;
    finding.measured = showNumber(finding.value, 0) + "°";
    finding.note = fmt::format("{} may lean {} before it falls", own ? "The collider" : "The default box",
                               finding.measured);
    return finding;
}

} // namespace zl::platform
