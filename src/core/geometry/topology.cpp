#include "core/geometry/topology.h"

#include "core/base/groups.h"
#include "core/base/huge_pages.h"
#include "core/geometry/weld.h"

#include <tbb/parallel_for.h>

#include <algorithm>

namespace zl::geometry {

std::vector<HalfEdge> sortedHalfEdges(const Mesh& mesh, const std::vector<std::uint32_t>& place) {
    const auto each = [&](const auto& visit) {
        for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t) {
            const std::uint32_t c[3] = {place[mesh.indices[3 * t]], place[mesh.indices[3 * t + 1]],
                                        place[mesh.indices[3 * t + 2]]};
            if (c[0] == c[1] || c[1] == c[2] || c[2] == c[0]) continue;
            for (int k = 0; k < 3; ++k) visit(c[k], c[(k + 1) % 3], t);
        }
    };
    // Counted into a row for each lower place, where only a handful is left to be sorted.
    std::vector<std::uint32_t> start(place.size() + 1, 0);
    each([&](std::uint32_t a, std::uint32_t b, std::uint32_t) { ++start[std::min(a, b) + 1]; });
    for (std::size_t i = 0; i + 1 < start.size(); ++i) start[i + 1] += start[i];
    std::vector<HalfEdge> edges;
    resizeBig(edges, start.back());
    std::vector<std::uint32_t> fill(start.begin(), start.end() - 1);
    each([&](std::uint32_t from, std::uint32_t to, std::uint32_t t) {
        const std::uint64_t a = std::min(from, to), b = std::max(from, to);
        edges[fill[a]++] = {a << 32 | b, t, from < to};
    });
    tbb::parallel_for(std::size_t(0), place.size(), [&](std::size_t p) {
        std::sort(edges.begin() + start[p], edges.begin() + start[p + 1],
                  [](const HalfEdge& a, const HalfEdge& b) {
                      return a.key != b.key ? a.key < b.key : a.triangle < b.triangle;
                  });
    });
    return edges;
}

std::vector<std::uint32_t> pieceOfTriangle(const Mesh& mesh, const std::vector<std::uint32_t>& place,
                                           std::size_t* pieces) {
    Groups groups(mesh.positions.size());
    for (std::size_t i = 0; i + 2 < mesh.indices.size(); i += 3)
        for (std::size_t k = 1; k < 3; ++k) groups.join(place[mesh.indices[i]], place[mesh.indices[i + k]]);
    std::vector<std::uint32_t> number(mesh.positions.size(), ~0u), result(mesh.triangleCount());
    std::uint32_t count = 0;
    for (std::size_t t = 0; t < result.size(); ++t) {
        std::uint32_t& n = number[groups.of(place[mesh.indices[3 * t]])];
        if (n == ~0u) n = count++;
        result[t] = n;
    }
    if (pieces) *pieces = count;
    return result;
}

Topology topologyOf(const Mesh& mesh) {
    Topology result;
    const auto place = joinedPlaces(mesh.positions, 0);
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a = mesh.positions[mesh.indices[3 * t]], b = mesh.positions[mesh.indices[3 * t + 1]],
                         c = mesh.positions[mesh.indices[3 * t + 2]];
        const glm::dvec3 cross = glm::cross(b - a, c - a);
        if (!(glm::dot(cross, cross) > 0)) ++result.degenerateTriangles;
    }
    const auto edges = sortedHalfEdges(mesh, place);
    for (std::size_t i = 0; i < edges.size();) {
        std::size_t end = i + 1;
        while (end < edges.size() && edges[end].key == edges[i].key) ++end;
        if (end - i == 1) ++result.openEdges;
        if (end - i > 2) ++result.nonManifoldEdges;
        if (end - i == 2 && edges[i].forward == edges[i + 1].forward) ++result.disagreeingEdges;
        i = end;
    }
    pieceOfTriangle(mesh, place, &result.pieces);
    result.watertight = !edges.empty() && result.openEdges == 0 && result.nonManifoldEdges == 0;
    return result;
}

} // namespace zl::geometry
