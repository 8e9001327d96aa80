#include "core/geometry/clean.h"

#include "core/geometry/enclosure.h"
#include "core/geometry/extract.h"
#include "core/geometry/number_table.h"
#include "core/geometry/topology.h"
#include "core/geometry/turn_slivers.h"
#include "core/geometry/weld.h"

#include <algorithm>
#include <array>

namespace zl::geometry {

namespace {

using Places = std::vector<std::uint32_t>;

std::array<std::uint32_t, 3> sortedPlaces(const Mesh& mesh, const Places& place, std::size_t t) {
    std::uint32_t a = place[mesh.indices[3 * t]], b = place[mesh.indices[3 * t + 1]],
                  c = place[mesh.indices[3 * t + 2]];
    if (a > b) std::swap(a, b);
    if (b > c) std::swap(b, c);
    if (a > b) std::swap(a, b);
    return {a, b, c};
}

/// Marks triangles with two corners at one place, and those on the same three places as an earlier one.
void markSame(const Mesh& mesh, const Places& place, std::vector<char>& drop, CleanResult& result) {
    const std::size_t count = mesh.triangleCount();
    NumberTable seen(count);
    // By small blocks, so that the table's slots are on their way while the next hashes are made.
    constexpr std::size_t block = 64;
    std::array<std::uint32_t, 3> places[block];
    std::uint64_t hash[block];
    for (std::size_t first = 0; first < count; first += block) {
        const std::size_t size = std::min(block, count - first);
        for (std::size_t k = 0; k < size; ++k) {
            places[k] = sortedPlaces(mesh, place, first + k);
            hash[k] = mixed((std::uint64_t(places[k][0]) << 32 | places[k][1]) ^ mixed(places[k][2]));
            seen.prefetch(hash[k]);
        }
        for (std::size_t k = 0; k < size; ++k) {
            const auto t = static_cast<std::uint32_t>(first + k);
            if (places[k][0] == places[k][1] || places[k][1] == places[k][2]) {
                drop[t] = 1;
                ++result.sliversRemoved;
            } else if (seen.findOrAdd(hash[k], t, [&](std::uint32_t other) {
                           return sortedPlaces(mesh, place, other) == places[k];
                       }) != t) {
                drop[t] = 1;
                ++result.doublesRemoved;
            }
        }
    }
}

/// The mesh without the marked triangles, itself when none is.
Mesh without(Mesh mesh, const std::vector<char>& drop) {
    if (std::ranges::find(drop, 1) == drop.end()) return mesh;
    return extracted(mesh, triangleWear(mesh), [&](std::size_t t) { return !drop[t]; });
}

} // namespace

bool isSliver(const Mesh& mesh, std::size_t triangle, double tolerance) {
    return sliverCorner(mesh, triangle, tolerance) >= 0;
}

CleanResult clean(const Mesh& mesh, float tolerance, const Progress& progress) {
    CleanResult result;
    Places place = joinedPlaces(mesh.positions, 0, progress.between(0, 0.3));
    std::vector<char> drop(mesh.triangleCount(), 0);
    markSame(mesh, place, drop, result);
    progress.report(0.6);
    TurnedSlivers turned = turnSlivers(mesh, std::move(place), tolerance, std::move(drop));
    result.sliversKept = turned.kept;
    result.sliversRemoved += turned.taken;
    progress.report(0.8);
    result.mesh = std::move(turned.mesh);
    if (turned.taken > 0) { // what was cut in two may now lie on others
        std::vector<char> again(result.mesh.triangleCount(), 0);
        markSame(result.mesh, joinedPlaces(result.mesh.positions, 0), again, result);
        result.mesh = without(std::move(result.mesh), again);
    }
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

/// Six times the volume that an open sheet has to enclose about its middle, by its doubled area to the power
/// of 1.5, for one side of it to be its outside: a fifth of what a hemisphere encloses.
constexpr double leastBulge = 0.04;

WindingResult faceOutward(const Mesh& mesh, const Progress& progress) {
    WindingResult result;
    const Places place = joinedPlaces(mesh.positions, 0, progress.between(0, 0.2));
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
        double volume = 0, area = 0;
        std::size_t flipped = 0;
        bool open = false;
        for (const std::uint32_t t : piece) {
            const glm::dvec3 a = glm::dvec3(mesh.positions[mesh.indices[3 * t]]) - middle,
                             b = glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - middle,
                             c = glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - middle;
            volume += (flip[t] ? -1.0 : 1.0) * glm::dot(a, glm::cross(b, c));
            flipped += flip[t];
            area += glm::length(glm::cross(b - a, c - a));
            open = open || start[t + 1] - start[t] < 3;
        }
        // A sheet that hardly bends has no inside: it goes on facing as most of it does.
        if (open && std::abs(volume) < leastBulge * std::pow(area, 1.5))
            volume = 2 * flipped > piece.size() ? -1 : 1;
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
