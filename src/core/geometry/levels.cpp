#include "core/geometry/levels.h"

#include "core/base/unique_names.h"
#include "core/geometry/parts.h"
#include "core/geometry/clip_keys.h"

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

LevelNodes levelsAsNodes(const Model& model,
                         const std::function<std::string(const std::string& part, int level)>& nameFor) {
    LevelNodes out{model, std::vector<std::vector<std::string>>(std::size_t(levelCount(model)))};
    UniqueNames names;
    for (const Node& node : model.nodes)
        if (node.mesh < 0) names.take(node.name);
    std::map<int, std::vector<int>> beside; // copies that were taken from below a part, by the part
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& was = model.nodes[n];
        if (was.mesh < 0) continue;
        Node& node = out.model.nodes[n];
        const int whole = was.level > 0 && was.parent >= 0 ? was.parent : int(n);
        const Node& part = model.nodes[std::size_t(whole)];
        node.name = names.made(nameFor(part.name, was.level));
        node.level = 0;
        out.names[std::size_t(was.level)].push_back(node.name);
        if (whole != int(n) && was.local == glm::dmat4(1.0)) {
            node.parent = part.parent, node.local = part.local;
            beside[whole].push_back(int(n));
        }
    }
    playAlike(out.model, beside,
              [](const Channel& channel) { return channel.target != Channel::Target::Weights; });
    return out;
}

} // namespace zl::geometry
