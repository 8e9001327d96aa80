#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/selection/chosen.h"

#include <cmath>
#include <numeric>

namespace zl::selection {

namespace {

/// Groups of triangles that were found to belong together (disjoint sets with path halving).
class Groups {
public:
    explicit Groups(std::size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0u); }
    std::uint32_t of(std::uint32_t t) {
        while (parent_[t] != t) t = parent_[t] = parent_[parent_[t]];
        return t;
    }
    void join(std::uint32_t a, std::uint32_t b) { parent_[of(a)] = of(b); }

private:
    std::vector<std::uint32_t> parent_;
};

template <class GroupOf>
std::vector<char> allOfGroups(std::vector<char> marks, std::size_t groups, const GroupOf& groupOf) {
    std::vector<char> wanted(groups, 0);
    for (std::size_t t = 0; t < marks.size(); ++t)
        if (marks[t]) wanted[groupOf(t)] = 1;
    for (std::size_t t = 0; t < marks.size(); ++t) marks[t] = wanted[groupOf(t)];
    return marks;
}

} // namespace

std::vector<char> grownToLooseParts(const Mesh& mesh, std::vector<char> marks) {
    std::size_t pieces = 0;
    const auto piece = geometry::pieceOfTriangle(mesh, geometry::joinedPlaces(mesh.positions, 0), &pieces);
    return allOfGroups(std::move(marks), pieces, [&](std::size_t t) { return piece[t]; });
}

std::vector<char> grownToCreases(const Mesh& mesh, std::vector<char> marks, double angle) {
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    const auto edges = geometry::sortedHalfEdges(mesh, place);
    const auto normalOf = [&](std::uint32_t t) {
        const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]), b(mesh.positions[mesh.indices[3 * t + 1]]),
            c(mesh.positions[mesh.indices[3 * t + 2]]);
        const glm::dvec3 n = glm::cross(b - a, c - a);
        const double length = glm::length(n);
        return length > 0 ? n / length : glm::dvec3(0);
    };
    const double least = std::cos(angle) - 1e-9; // flat neighbours stay neighbours at an angle of nothing
    Groups groups(mesh.triangleCount());
    for (std::size_t i = 0; i < edges.size();) {
        std::size_t end = i + 1;
        while (end < edges.size() && edges[end].key == edges[i].key) ++end;
        if (end - i == 2) {
            const std::uint32_t a = edges[i].triangle, b = edges[i + 1].triangle;
            // Neighbours that are wound against each other have turned normals.
            const double turned = edges[i].forward == edges[i + 1].forward ? -1 : 1;
            if (turned * glm::dot(normalOf(a), normalOf(b)) >= least) groups.join(a, b);
        }
        i = end;
    }
    return allOfGroups(std::move(marks), mesh.triangleCount(),
                       [&](std::size_t t) { return groups.of(static_cast<std::uint32_t>(t)); });
}

} // namespace zl::selection
