#include "core/selection/left_out.h"

#include "core/geometry/extract.h"
#include "core/geometry/moving_nodes.h"
#include "core/geometry/parts.h"
#include "core/geometry/clip_keys.h"

namespace zl::selection {

Model leftOut(const Model& model, const Chosen& chosen) {
    Model out = model;
    std::vector<char> gone(model.nodes.size(), 0);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (chosen.countOf(n) == 0) continue;
        Node& node = out.nodes[n];
        if (chosen.isWhole(model, n)) {
            node.mesh = -1;
            node.skin = -1;
            gone[n] = 1;
            continue;
        }
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        Mesh rest = geometry::inOwnOrder(mesh, chosen.trianglesOf(n, false));
        node.mesh = static_cast<int>(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(rest)));
    }
    geometry::dropStrayWeightKeys(out);
    const auto moving = geometry::movingNodes(model);
    for (std::size_t n = model.nodes.size(); n-- > 0;) { // children before their parents
        gone[n] = gone[n] && !moving[n];
        if (!gone[n] && out.nodes[n].parent >= 0) gone[std::size_t(out.nodes[n].parent)] = 0;
    }
    return geometry::withoutNodes(out, gone);
}

} // namespace zl::selection
