#include "core/geometry/levels.h"

#include "core/geometry/parts.h"

#include <algorithm>

namespace zl::geometry {

int levelCount(const Model& model) {
    int highest = 0;
    for (const Node& node : model.nodes) highest = std::max(highest, node.level);
    return highest + 1;
}

Model atLevel(const Model& model, int level) {
    Model out = model;
    std::vector<char> gone(out.nodes.size(), 0), holds(out.nodes.size(), 0);
    for (std::size_t n = out.nodes.size(); n-- > 0;) {
        Node& node = out.nodes[n];
        if (node.mesh >= 0 && node.level != level) node.mesh = -1;
        // Copies have nothing below them, so those of other levels go; groups stay for what they hold.
        gone[n] = node.level != 0 && node.level != level && !holds[n];
        if (!gone[n] && node.parent >= 0) holds[std::size_t(node.parent)] = 1;
        node.level = 0;
    }
    return withoutNodes(out, gone);
}

Model withoutLevels(const Model& model) {
    return levelCount(model) == 1 ? model : atLevel(model, 0);
}

} // namespace zl::geometry
