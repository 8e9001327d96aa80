// How large the delivered files will be. Before a delivery it is an estimate from counts: in the OBJ files
// written here a place takes about 38 bytes, a normal 36, a UV 22 and a triangle 42.
#include "core/platform/rules/all_rules.h"
#include "core/texture/picture_cache.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureFileSize(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most-megabytes", 0) * 1e6;
    double bytes = 0;
    for (const Node& node : m.model().nodes) {
        if (node.mesh < 0) continue;
        const Mesh& mesh = *m.model().meshes[node.mesh];
        // Without normals, delivery makes them and splits corners at hard edges: about half as many again on
        // a scan.
        const double corners = double(mesh.vertexCount()) * (mesh.normals.empty() ? 1.5 : 1.0);
        bytes += corners * (mesh.uvSets.empty() ? 74 : 96) + double(mesh.triangleCount()) * 42;
    }
    for (const int image : usedImages(m.model()))
        bytes += double(texture::encodedOf(m.model().images[image])->size());
    Finding finding = atMostBytes(bytes, most);
    finding.note = fmt::format("The files will take about {}", showBytes(bytes));
    return finding;
}

} // namespace zl::platform
