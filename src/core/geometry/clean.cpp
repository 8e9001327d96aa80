#include "core/geometry/clean.h"

#include "core/geometry/enclosure.h"
#include "core/geometry/extract.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

namespace zl::geometry {

namespace {

using Places = std::vector<std::uint32_t>;

struct PlaceTriple {
    std::uint32_t a, b, c;
    bool operator==(const PlaceTriple&) const = default;
};
struct TripleHash {
    std::size_t operator()(const PlaceTriple& t) const {
        return (std::size_t(t.a) * 0x9e3779b97f4a7c15ull ^ t.b) * 0xbf58476d1ce4e5b9ull ^
               (std::size_t(t.c) << 17);
    }
};

/// Index (0–2) of the corner opposite the longest edge when the triangle is lower than `tolerance` over it;
/// -1 else.
int sliverCorner(const Mesh& mesh, const std::uint32_t* corner, double tolerance) {
    const glm::dvec3 p[3] = {mesh.positions[corner[0]], mesh.positions[corner[1]], mesh.positions[corner[2]]};
    int apex = 0;
    double longest = -1;
    for (int k = 0; k < 3; ++k) {
        const double length = glm::distance(p[(k + 1) % 3], p[(k + 2) % 3]);
        if (length > longest) longest = length, apex = k;
    }
    const double twiceArea = glm::length(glm::cross(p[1] - p[0], p[2] - p[0]));
    return twiceArea <= longest * std::max(tolerance, 1e-6 * longest) ? apex : -1;
}

/// Takes slivers with three different corners out by turning their longest edge into the neighbour.
/// Marks those without a usable neighbour in `drop`. Returns how many were taken care of.
std::size_t turnSlivers(Mesh& mesh, const Places& place, double tolerance, std::vector<char>& drop) {
    std::unordered_map<std::uint64_t, std::uint32_t> longestEdge; // directed edge a→b wanted from a neighbour
    std::vector<std::pair<std::uint32_t, int>> slivers;
    for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t) {
        if (drop[t]) continue;
        const int apex = sliverCorner(mesh, &mesh.indices[3 * t], tolerance);
        if (apex < 0) continue;
        slivers.emplace_back(t, apex);
        const std::uint64_t a = place[mesh.indices[3 * t + (apex + 1) % 3]],
                            b = place[mesh.indices[3 * t + (apex + 2) % 3]];
        longestEdge.emplace(b << 32 | a, ~0u);
    }
    if (slivers.empty()) return 0;
    for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t) {
        if (drop[t]) continue;
        for (int k = 0; k < 3; ++k) {
            const std::uint64_t a = place[mesh.indices[3 * t + k]],
                                b = place[mesh.indices[3 * t + (k + 1) % 3]];
            if (const auto found = longestEdge.find(a << 32 | b); found != longestEdge.end())
                found->second = t;
        }
    }
    std::vector<char> touched(mesh.triangleCount(), 0);
    std::size_t count = 0;
    for (const auto& [t, apex] : slivers) {
        std::uint32_t* s = &mesh.indices[3 * t];
        const std::uint32_t c = s[apex], a = s[(apex + 1) % 3], b = s[(apex + 2) % 3];
        const std::uint32_t neighbour = longestEdge.at(std::uint64_t(place[b]) << 32 | place[a]);
        if (neighbour == t || touched[t]) continue; // left for the next run; it stays a valid triangle
        if (neighbour == ~0u) {
            drop[t] = 1;
            ++count;
            continue;
        }
        if (touched[neighbour]) continue;
        std::uint32_t* n = &mesh.indices[3 * neighbour];
        int far = 0;
        while (far < 3 && (place[n[far]] == place[a] || place[n[far]] == place[b])) ++far;
        if (far == 3 || place[n[far]] == place[c]) continue;
        // The neighbour (b a d) and the sliver (c a b) become (a d c) and (d b c): edge a–b turns to c–d.
        const std::uint32_t nb = n[(far + 1) % 3], na = n[(far + 2) % 3], d = n[far];
        n[0] = nb, n[1] = c, n[2] = d;
        s[0] = c, s[1] = na, s[2] = d;
        touched[t] = touched[neighbour] = 1;
        ++count;
    }
    return count;
}

} // namespace

bool isSliver(const Mesh& mesh, std::size_t triangle, double tolerance) {
    return sliverCorner(mesh, &mesh.indices[3 * triangle], tolerance) >= 0;
}

CleanResult clean(const Mesh& mesh, float tolerance, const Progress& progress) {
    CleanResult result;
    const Places place = joinedPlaces(mesh.positions, 0, progress.part(0, 0.3));
    std::vector<char> drop(mesh.triangleCount(), 0);
    std::unordered_set<PlaceTriple, TripleHash> seen;
    seen.reserve(mesh.triangleCount());
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        std::uint32_t c[3] = {place[mesh.indices[3 * t]], place[mesh.indices[3 * t + 1]],
                              place[mesh.indices[3 * t + 2]]};
        if (c[0] == c[1] || c[1] == c[2] || c[2] == c[0]) {
            drop[t] = 1;
            ++result.sliversRemoved;
            continue;
        }
        std::sort(c, c + 3);
        if (!seen.insert({c[0], c[1], c[2]}).second) {
            drop[t] = 1;
            ++result.doublesRemoved;
        }
    }
    progress.report(0.6);
    Mesh work = mesh;
    result.sliversRemoved += turnSlivers(work, place, tolerance, drop);
    progress.report(0.8);
    const bool nothing = std::ranges::find(drop, 1) == drop.end();
    result.mesh = nothing ? std::move(work)
                          : extracted(work, triangleMaterials(work), [&](std::size_t t) { return !drop[t]; });
    progress.report(1);
    return result;
}

double signedVolume(const Mesh& mesh, const glm::dvec3& origin) {
    double sum = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a = glm::dvec3(mesh.positions[mesh.indices[3 * t]]) - origin,
                         b = glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - origin,
                         c = glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - origin;
        sum += glm::dot(a, glm::cross(b, c));
    }
    return sum / 6.0;
}

WindingResult faceOutward(const Mesh& mesh, const Progress& progress) {
    WindingResult result;
    const Places place = joinedPlaces(mesh.positions, 0, progress.part(0, 0.2));
    const auto edges = sortedHalfEdges(mesh, place);
    progress.report(0.5);

    // Pairs of triangles over manifold edges, and whether they agree, as adjacency lists.
    const std::size_t count = mesh.triangleCount();
    std::vector<std::uint32_t> start(count + 1, 0);
    const auto eachPair = [&](const auto& visit) {
        for (std::size_t i = 0; i < edges.size();) {
            std::size_t end = i + 1;
            while (end < edges.size() && edges[end].key == edges[i].key) ++end;
            if (end - i == 2)
                visit(edges[i].triangle, edges[i + 1].triangle, edges[i].forward != edges[i + 1].forward);
            i = end;
        }
    };
    eachPair([&](std::uint32_t a, std::uint32_t b, bool) { ++start[a + 1], ++start[b + 1]; });
    for (std::size_t i = 0; i < count; ++i) start[i + 1] += start[i];
    std::vector<std::uint32_t> neighbour(start[count]), fill(start.begin(), start.end() - 1);
    std::vector<char> agrees(start[count]);
    eachPair([&](std::uint32_t a, std::uint32_t b, bool agree) {
        agrees[fill[a]] = agree, neighbour[fill[a]++] = b;
        agrees[fill[b]] = agree, neighbour[fill[b]++] = a;
    });
    progress.report(0.7);

    std::vector<char> seen(count, 0), flip(count, 0);
    std::vector<std::uint32_t> piece, pieceOf(count, 0);
    struct Inward {
        std::vector<std::uint32_t> triangles;
        bool asFound; ///< no triangle of it was turned to agree
    };
    std::vector<Inward> inward;
    std::uint32_t pieces = 0;
    for (std::uint32_t first = 0; first < count; ++first) {
        if (seen[first]) continue;
        piece.assign(1, first);
        seen[first] = 1;
        glm::dvec3 middle(0.0);
        for (std::size_t at = 0; at < piece.size(); ++at) {
            const std::uint32_t t = piece[at];
            middle += glm::dvec3(mesh.positions[mesh.indices[3 * t]]);
            for (std::uint32_t e = start[t]; e < start[t + 1]; ++e) {
                if (seen[neighbour[e]]) continue;
                seen[neighbour[e]] = 1;
                flip[neighbour[e]] = flip[t] ^ !agrees[e];
                piece.push_back(neighbour[e]);
            }
        }
        middle /= double(piece.size());
        double volume = 0;
        std::size_t flipped = 0;
        for (const std::uint32_t t : piece) {
            const glm::dvec3 a = glm::dvec3(mesh.positions[mesh.indices[3 * t]]) - middle,
                             b = glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - middle,
                             c = glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - middle;
            volume += (flip[t] ? -1.0 : 1.0) * glm::dot(a, glm::cross(b, c));
            flipped += flip[t];
        }
        for (const std::uint32_t t : piece) pieceOf[t] = pieces;
        ++pieces;
        if (volume < 0) inward.push_back({piece, flipped == 0});
        if (volume >= 0 || flipped > 0) result.turnedToAgree += std::min(flipped, piece.size() - flipped);
    }
    std::optional<RayScene> scene;
    for (const Inward& one : inward) {
        // A single piece that agrees with itself and has no open edge may be the wall of a hollow.
        const auto closed = [&](std::uint32_t t) { return start[t + 1] - start[t] == 3; };
        if (one.asFound && pieces > 1 && std::ranges::all_of(one.triangles, closed)) {
            if (!scene) scene.emplace(mesh);
            if (enclosingPieces(*scene, mesh, pieceOf, one.triangles[0]) % 2 == 1) continue;
        }
        for (const std::uint32_t t : one.triangles) flip[t] ^= 1;
        // A piece that agreed with itself but faced inward is turned as a whole; else the minority counts.
        if (one.asFound) result.turnedOutward += one.triangles.size();
    }
    result.mesh = mesh;
    std::vector<char> normalTurned(mesh.normals.size(), 0);
    for (std::size_t t = 0; t < count; ++t) {
        if (!flip[t]) continue;
        std::uint32_t* c = &result.mesh.indices[3 * t];
        std::swap(c[1], c[2]);
        if (mesh.normals.empty()) continue;
        const glm::vec3 n = glm::cross(mesh.positions[c[1]] - mesh.positions[c[0]],
                                       mesh.positions[c[2]] - mesh.positions[c[0]]);
        for (int k = 0; k < 3; ++k)
            if (!normalTurned[c[k]] && glm::dot(n, result.mesh.normals[c[k]]) < 0) {
                result.mesh.normals[c[k]] = -result.mesh.normals[c[k]];
                normalTurned[c[k]] = 1;
            }
    }
    progress.report(1);
    return result;
}

} // namespace zl::geometry
