// Rules about what hangs on bones: parts that hang on one each, and bones that stand at rest as they were
// bound.
#include "core/platform/rules/all_rules.h"

#include "core/motion/rest_pose.h"

#include <fmt/format.h>
#include <glm/trigonometric.hpp>

namespace zl::platform {

Finding measureOneBoneASegment(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    std::size_t bending = 0, parts = 0;
    Finding finding;
    finding.canBeTight = false;
    for (const int n : shownNodes(model)) {
        const Node& node = model.nodes[std::size_t(n)];
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        ++parts;
        if (node.skin < 0 || mesh.weights.empty()) continue;
        int only = -1;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            bool stiff = true;
            for (std::size_t c = 0; c < 3; ++c) {
                const std::uint32_t v = mesh.indices[3 * t + c];
                for (int k = 0; k < 4; ++k) {
                    if (!(mesh.weights[v][k] > 0)) continue;
                    if (only < 0) only = mesh.joints[v][k];
                    stiff &= mesh.joints[v][k] == only;
                }
            }
            if (!stiff) finding.faces.push_back({n, std::uint32_t(t)}), ++bending;
        }
    }
    finding.value = double(bending);
    finding.holds = bending == 0;
    finding.measured = bending == 0 ? "stiff" : "bends";
    finding.limit = "one bone a part";
    finding.note = bending == 0 ? (parts == 1 ? "The part hangs on one bone, or on none"
                                              : "Every part hangs on one bone, or on none")
                                : showCount(long(bending), "triangle hangs", "triangles hang") +
                                      " on other bones than the rest of their part";
    return finding;
}

Finding measureRestPose(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const Model& model = m.model();
    const double degrees = rule.limit("degrees", 1), within = rule.limit("within", 0.01);
    const motion::OffBind off = motion::offBind(model);
    Finding finding;
    finding.canBeTight = false;
    finding.value = glm::degrees(off.turn);
    const double units = off.place / sheet.metresPerUnit;
    finding.holds = finding.value <= degrees + 1e-6 && units <= within + 1e-9;
    finding.measured = fmt::format("{}°", showNumber(finding.value, 1));
    finding.limit = fmt::format("of {}°", showNumber(degrees, 1));
    if (finding.holds) {
        finding.note = model.skins.empty() ? "There are no bones" : "Bones are at rest as they were bound";
        return finding;
    }
    finding.nodes = {off.node};
    finding.note = fmt::format("\"{}\" stands {}° and {} from where it was bound",
                               model.nodes[std::size_t(off.node)].name, showNumber(finding.value, 1),
                               sheet.showLength(off.place));
    return finding;
}

} // namespace zl::platform
