// The rule about parts that hang on one bone each.
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

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

} // namespace zl::platform
