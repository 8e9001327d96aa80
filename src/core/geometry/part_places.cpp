#include "core/geometry/part_places.h"

#include <algorithm>

namespace zl::geometry {

std::vector<int> withBelow(const Model& model, int node) {
    std::vector<char> within(model.nodes.size(), 0);
    std::vector<int> out;
    for (std::size_t n = std::size_t(node); n < model.nodes.size(); ++n) { // parents come first
        const int parent = model.nodes[n].parent;
        within[n] = int(n) == node || (parent >= 0 && within[std::size_t(parent)]);
        if (within[n]) out.push_back(int(n));
    }
    return out;
}

Bounds boundsOf(const Model& model, const std::vector<int>& nodes) {
    Bounds bounds;
    const auto world = worldMatrices(model);
    for (const int node : nodes)
        if (const int mesh = model.nodes[std::size_t(node)].mesh; mesh >= 0)
            bounds.add(meshBounds(*model.meshes[std::size_t(mesh)], world[std::size_t(node)]));
    return bounds;
}

glm::dvec3 placeOf(const Model& model, int node, const std::vector<int>& shown, By by) {
    const Bounds bounds = boundsOf(model, shown);
    if (by == By::Origin || bounds.empty()) return worldMatrices(model)[std::size_t(node)][3];
    glm::dvec3 at = bounds.centre();
    switch (by) {
    case By::Foot:
        at.y = bounds.min.y;
        break;
    case By::Top:
        at.y = bounds.max.y;
        break;
    case By::Left:
        at.x = bounds.max.x;
        break;
    case By::Right:
        at.x = bounds.min.x;
        break;
    case By::Front:
        at.z = bounds.max.z;
        break;
    case By::Back:
        at.z = bounds.min.z;
        break;
    case By::Centre:
    case By::Origin:
        break;
    }
    return at;
}

std::vector<int> pairedByPlace(const std::vector<glm::dvec3>& places, const std::vector<glm::dvec3>& others) {
    const auto boxed = [](std::vector<glm::dvec3> points) {
        Bounds bounds;
        for (const auto& p : points) bounds.add(p);
        const glm::dvec3 size = bounds.size(), centre = bounds.centre();
        // An axis along which they hardly differ tells nothing.
        const double least = 0.1 * std::max({size.x, size.y, size.z, 1e-12});
        for (auto& p : points)
            for (int k = 0; k < 3; ++k) p[k] = size[k] > least ? (p[k] - centre[k]) / size[k] : 0;
        return points;
    };
    const auto a = boxed(places), b = boxed(others);
    struct Pair {
        double apart;
        std::size_t i, j;
    };
    std::vector<Pair> pairs;
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t j = 0; j < b.size(); ++j) pairs.push_back({glm::distance(a[i], b[j]), i, j});
    std::ranges::stable_sort(pairs, {}, &Pair::apart);
    std::vector<int> out(a.size(), -1);
    std::vector<char> taken(b.size(), 0);
    for (const Pair& pair : pairs)
        if (out[pair.i] < 0 && !std::exchange(taken[pair.j], 1)) out[pair.i] = int(pair.j);
    return out;
}

} // namespace zl::geometry
