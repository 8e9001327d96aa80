#include "core/selection/grown.h"

#include "core/base/groups.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace zl::selection {

namespace {

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

namespace {

/// Which corners are one: those at one place and, where they have any, at one UV.
std::vector<std::uint32_t> joinedUvs(const Mesh& mesh, const std::vector<std::uint32_t>& place,
                                     const std::vector<glm::vec2>& uvs) {
    std::vector<std::uint32_t> order(mesh.vertexCount()), out(mesh.vertexCount());
    std::iota(order.begin(), order.end(), 0u);
    const auto key = [&](std::uint32_t v) { return std::tuple(place[v], uvs[v].x, uvs[v].y); };
    std::ranges::sort(order, {}, key);
    for (std::size_t i = 0; i < order.size(); ++i)
        out[order[i]] = i > 0 && key(order[i]) == key(order[i - 1]) ? out[order[i - 1]] : order[i];
    return out;
}

/// Which places the marked triangles use, and which the others.
struct Sides {
    std::vector<char> inside, outside;
};
Sides sidesOf(const Mesh& mesh, const std::vector<std::uint32_t>& place, const std::vector<char>& marks) {
    Sides sides{std::vector<char>(mesh.vertexCount(), 0), std::vector<char>(mesh.vertexCount(), 0)};
    for (std::size_t i = 0; i < mesh.indices.size(); ++i)
        (marks[i / 3] ? sides.inside : sides.outside)[place[mesh.indices[i]]] = 1;
    return sides;
}

bool all(const Mesh& mesh, const std::vector<std::uint32_t>& place, std::size_t t,
         const std::vector<char>& used) {
    return used[place[mesh.indices[3 * t]]] && used[place[mesh.indices[3 * t + 1]]] &&
           used[place[mesh.indices[3 * t + 2]]];
}

bool any(const Mesh& mesh, const std::vector<std::uint32_t>& place, std::size_t t,
         const std::vector<char>& used) {
    return used[place[mesh.indices[3 * t]]] || used[place[mesh.indices[3 * t + 1]]] ||
           used[place[mesh.indices[3 * t + 2]]];
}

} // namespace

std::vector<char> grownToIslands(const Mesh& mesh, std::vector<char> marks, std::size_t uvSet) {
    if (uvSet >= mesh.uvSets.size() || mesh.uvSets[uvSet].empty())
        return grownToLooseParts(mesh, std::move(marks));
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    const auto edges = geometry::sortedHalfEdges(mesh, joinedUvs(mesh, place, mesh.uvSets[uvSet]));
    Groups groups(mesh.triangleCount());
    for (std::size_t i = 1; i < edges.size(); ++i)
        if (edges[i].key == edges[i - 1].key) groups.join(edges[i].triangle, edges[i - 1].triangle);
    return allOfGroups(std::move(marks), mesh.triangleCount(),
                       [&](std::size_t t) { return groups.of(static_cast<std::uint32_t>(t)); });
}

std::vector<char> grown(const Mesh& mesh, const std::vector<char>& marks) {
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    const Sides sides = sidesOf(mesh, place, marks);
    std::vector<char> out(marks.size());
    for (std::size_t t = 0; t < out.size(); ++t) out[t] = any(mesh, place, t, sides.inside);
    return out;
}

std::vector<char> shrunk(const Mesh& mesh, const std::vector<char>& marks) {
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    const Sides sides = sidesOf(mesh, place, marks);
    std::vector<char> out(marks.size());
    for (std::size_t t = 0; t < out.size(); ++t) out[t] = marks[t] && !any(mesh, place, t, sides.outside);
    return out;
}

std::vector<char> smoothed(const Mesh& mesh, const std::vector<char>& marks) {
    const auto edges = geometry::sortedHalfEdges(mesh, geometry::joinedPlaces(mesh.positions, 0));
    std::vector<std::array<std::uint8_t, 2>> neighbours(marks.size(), {0, 0}); // not marked, marked
    for (std::size_t i = 0; i < edges.size();) {
        std::size_t end = i + 1;
        while (end < edges.size() && edges[end].key == edges[i].key) ++end;
        if (end - i == 2) { // where more meet nobody is the neighbour
            const std::uint32_t a = edges[i].triangle, b = edges[i + 1].triangle;
            ++neighbours[a][marks[b] != 0], ++neighbours[b][marks[a] != 0];
        }
        i = end;
    }
    std::vector<char> out(marks);
    for (std::size_t t = 0; t < out.size(); ++t)
        if (neighbours[t][!marks[t]] >= 2) out[t] = !marks[t];
    return out;
}

std::vector<char> withBorder(const Mesh& mesh, std::vector<char> marks, Border border) {
    if (border == Border::AsChosen) return marks;
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    const Sides sides = sidesOf(mesh, place, marks);
    for (std::size_t t = 0; t < marks.size(); ++t)
        if (all(mesh, place, t, sides.inside) && all(mesh, place, t, sides.outside))
            marks[t] = border == Border::Inside;
    return marks;
}

} // namespace zl::selection
