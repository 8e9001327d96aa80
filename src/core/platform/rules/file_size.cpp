// How large the delivered files will be. Before a delivery it is an estimate from counts: measured over text
// models, a corner with its normal and UV takes about 75 bytes in OBJ and a triangle about 32.
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureFileSize(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most-megabytes", 0) * 1e6;
    double bytes = 0;
    for (const Node& node : m.model().nodes) {
        if (node.mesh < 0) continue;
        const Mesh& mesh = *m.model().meshes[node.mesh];
        // Without normals, delivery makes them: at a scan's shapes about one a corner.
        bytes += double(mesh.vertexCount()) * (mesh.uvSets.empty() ? 55 : 75) + double(mesh.triangleCount()) * 32;
    }
    for (const int image : usedImages(m.model())) bytes += double(m.model().images[image]->encoded.size());
    Finding finding;
    finding.value = bytes / 1e6;
    finding.holds = bytes <= most;
    finding.share = most > 0 ? bytes / most : 0;
    finding.measured = "≈ " + showBytes(bytes);
    finding.limit = "of " + showBytes(most);
    finding.note = fmt::format("The files will take about {}", showBytes(bytes));
    return finding;
}

} // namespace zl::platform
