#include "core/uv/outline.h"

#include <algorithm>
#include <bit>
#include <unordered_map>

namespace zl::uv {

namespace {

std::uint64_t keyOf(glm::vec2 at) {
    return std::uint64_t(std::bit_cast<std::uint32_t>(at.x + 0.0f)) << 32 |
           std::bit_cast<std::uint32_t>(at.y + 0.0f); // -0 is 0
}

struct Edge {
    std::uint64_t from, to;
    glm::vec2 at; ///< where it begins
    auto ends() const { return std::minmax(from, to); }
    bool operator<(const Edge& other) const {
        return std::tuple(ends(), from) < std::tuple(other.ends(), other.from);
    }
};

/// Edges that one triangle has alone, all running the same way round.
std::vector<Edge> borderEdges(const UvFaces& faces, const UvIsland& island) {
    std::vector<Edge> edges;
    edges.reserve(3 * island.faces.size());
    for (const std::uint32_t f : island.faces) {
        const UvFace& face = faces.faces[f];
        const bool turned = doubleUvArea(face) < 0;
        for (std::size_t k = 0; k < 3; ++k) {
            glm::vec2 a = face.at[k], b = face.at[(k + 1) % 3];
            if (turned) std::swap(a, b);
            if (keyOf(a) != keyOf(b)) edges.push_back({keyOf(a), keyOf(b), a});
        }
    }
    std::ranges::sort(edges, std::less{});
    std::vector<Edge> alone;
    for (std::size_t i = 0; i < edges.size();) {
        std::size_t end = i + 1;
        while (end < edges.size() && edges[end].ends() == edges[i].ends()) ++end;
        if (end - i == 1) alone.push_back(edges[i]);
        i = end;
    }
    return alone;
}

} // namespace

std::vector<std::vector<glm::vec2>> outlineOf(const UvFaces& faces, const UvIsland& island) {
    const auto edges = borderEdges(faces, island);
    std::unordered_multimap<std::uint64_t, std::size_t> from;
    for (std::size_t e = 0; e < edges.size(); ++e) from.emplace(edges[e].from, e);
    std::vector<char> used(edges.size(), 0);
    std::vector<std::vector<glm::vec2>> loops;
    for (std::size_t first = 0; first < edges.size(); ++first) {
        if (used[first]) continue;
        auto& loop = loops.emplace_back();
        for (std::size_t e = first;;) {
            used[e] = 1;
            loop.push_back(edges[e].at);
            auto [next, last] = from.equal_range(edges[e].to);
            if (next == last) break;
            e = next->second;
            from.erase(next); // each edge is walked once, however many meet in a place
            if (used[e]) break;
        }
    }
    return loops;
}

} // namespace zl::uv
