#include "core/geometry/wheel_places.h"

#include "core/base/pattern.h"
#include "core/geometry/part_places.h"

#include <algorithm>
#include <unordered_map>

namespace zl::geometry {

std::vector<int> belonging(const Model& model, int node, const std::vector<std::string>& others) {
    std::vector<int> nodes = withBelow(model, node);
    if (others.empty()) return nodes;
    const NamePatterns names(others);
    std::vector<int> left; // parents come first
    std::erase_if(nodes, [&](int below) {
        const Node& of = model.nodes[std::size_t(below)];
        const bool leaves =
            below != node && (names.match(of.name) || std::ranges::find(left, of.parent) != left.end());
        if (leaves) left.push_back(below);
        return leaves;
    });
    return nodes;
}

std::vector<PlacedPart> placedParts(const Model& model, std::string_view parts, std::string_view on,
                                    std::string_view without) {
    const auto others = patternsFrom(without);
    std::unordered_map<std::string_view, int> called;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) called.try_emplace(model.nodes[n].name, int(n));
    std::vector<PlacedPart> out;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const auto star = matchPattern(parts, model.nodes[n].name);
        if (!star) continue;
        PlacedPart part{
            .node = int(n), .nodes = belonging(model, int(n), others), .hubName = std::string(on)};
        const Bounds bounds = boundsOf(model, part.nodes);
        if (bounds.empty()) continue;
        part.centre = bounds.centre();
        if (const auto at = part.hubName.find('*'); at != std::string::npos)
            part.hubName.replace(at, 1, star->empty() ? "" : star->front());
        if (const auto hub = called.find(part.hubName); hub != called.end()) part.hub = hub->second;
        out.push_back(std::move(part));
    }
    return out;
}

} // namespace zl::geometry
