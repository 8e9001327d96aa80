// UVs by flat islands: what faces the same way and hangs together, laid flat.
#include "core/uv/projected.h"

#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/uv/raster.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace zl::uv {

namespace {

constexpr std::uint32_t noTriangle = ~0u;
constexpr std::uint8_t mostReturns = 8; // of a triangle to islands that it does not fit into

/// A triangle mesh as islands see it.
struct Sheet {
    std::vector<glm::dvec3> places;  ///< three a triangle
    std::vector<glm::dvec3> normals; ///< unit, or zero without an area
    std::vector<double> areas;
    std::vector<std::array<std::uint32_t, 3>> beside; ///< over each edge that two triangles share
};

Sheet sheetOf(const Mesh& mesh, const glm::dmat4& toWorld) {
    Sheet out;
    const std::size_t count = mesh.triangleCount();
    out.places.resize(3 * count), out.normals.resize(count), out.areas.resize(count);
    out.beside.assign(count, {noTriangle, noTriangle, noTriangle});
    for (std::size_t c = 0; c < 3 * count; ++c)
        out.places[c] = glm::dvec3(toWorld * glm::dvec4(mesh.positions[mesh.indices[c]], 1));
    for (std::size_t t = 0; t < count; ++t) {
        const glm::dvec3* p = &out.places[3 * t];
        const glm::dvec3 cross = glm::cross(p[1] - p[0], p[2] - p[0]);
        const double length = glm::length(cross);
        out.normals[t] = length > 0 ? cross / length : glm::dvec3(0);
        out.areas[t] = std::isfinite(length) ? length / 2 : 0;
    }
    const auto halves = geometry::sortedHalfEdges(mesh, geometry::joinedPlaces(mesh.positions, 0));
    std::vector<int> used(count, 0);
    for (std::size_t i = 0; i + 1 < halves.size(); ++i) {
        const bool two = halves[i].key == halves[i + 1].key &&
                         (i == 0 || halves[i - 1].key != halves[i].key) &&
                         (i + 2 >= halves.size() || halves[i + 2].key != halves[i].key);
        if (!two) continue;
        const std::uint32_t a = halves[i].triangle, b = halves[i + 1].triangle;
        if (used[a] < 3) out.beside[a][std::size_t(used[a]++)] = b;
        if (used[b] < 3) out.beside[b][std::size_t(used[b]++)] = a;
    }
    return out;
}

/// Looks at a plane from the side that `normal` points to, with world up as up where there is one.
struct Flat {
    glm::dvec3 right, up;
    explicit Flat(const glm::dvec3& normal) {
        const glm::dvec3 towards =
            std::abs(normal.y) > 0.999 ? glm::dvec3(0, 0, -normal.y) : glm::dvec3(0, 1, 0);
        right = glm::normalize(glm::cross(towards, normal));
        up = glm::cross(normal, right);
    }
    glm::dvec2 of(const glm::dvec3& p) const { return {glm::dot(p, right), -glm::dot(p, up)}; }
};

/// The triangles of an island, in the order in which they joined, that lie on earlier ones when laid flat.
std::vector<std::uint32_t> folded(const Sheet& sheet, const std::vector<std::uint32_t>& island,
                                  const Flat& flat) {
    if (island.size() < 3) return {};
    glm::dvec2 least(1e300), most(-1e300);
    for (const std::uint32_t t : island)
        for (std::size_t k = 0; k < 3; ++k) {
            const glm::dvec2 at = flat.of(sheet.places[3 * std::size_t(t) + k]);
            least = glm::min(least, at), most = glm::max(most, at);
        }
    const double wide = std::max(most.x - least.x, most.y - least.y);
    if (!(wide > 0) || !std::isfinite(wide)) return {};
    const int edge = std::clamp(int(std::sqrt(16.0 * double(island.size()))), 16, 2048);
    std::vector<char> taken(std::size_t(edge) * std::size_t(edge), 0);
    std::vector<std::uint32_t> out;
    for (const std::uint32_t t : island) {
        std::array<glm::dvec2, 3> at;
        for (std::size_t k = 0; k < 3; ++k)
            at[k] = (flat.of(sheet.places[3 * std::size_t(t) + k]) - least) * (double(edge) / wide);
        std::size_t met = 0;
        const PixelWindow all{{0, 0}, {edge, edge}};
        forEachRow(at, all, [&](int row, int from, int to) {
            for (int x = from; x < to; ++x)
                met += std::size_t(taken[std::size_t(row) * std::size_t(edge) + std::size_t(x)]);
        });
        if (met > 0) {
            out.push_back(t);
            continue;
        }
        forEachRow(at, all, [&](int row, int from, int to) {
            for (int x = from; x < to; ++x) taken[std::size_t(row) * std::size_t(edge) + std::size_t(x)] = 1;
        });
    }
    return out;
}

} // namespace

Charts islandCharts(const Mesh& mesh, const glm::dmat4& toWorld, double angle, const Progress& progress) {
    const Sheet sheet = sheetOf(mesh, toWorld);
    const std::size_t count = mesh.triangleCount();
    Charts out;
    out.chart.assign(count, -1);
    out.at.resize(count);
    std::vector<std::uint32_t> seeds(count);
    std::iota(seeds.begin(), seeds.end(), 0u);
    std::ranges::stable_sort(seeds, std::greater{}, [&](std::uint32_t t) { return sheet.areas[t]; });
    const double least = std::cos(angle);
    std::size_t laid = 0;
    std::vector<std::uint8_t> returned(count, 0);
    // Those that lie on others come back as seeds at the end, until none is left: each island lays its first
    // triangle for good, so this ends.
    for (std::size_t s = 0; s < seeds.size(); ++s) {
        if ((s & 1023) == 0)
            progress.report(double(laid) / double(std::max<std::size_t>(count, 1)), "laying islands out");
        if (out.chart[seeds[s]] >= 0) continue;
        const int id = int(out.count++);
        glm::dvec3 towards = sheet.normals[seeds[s]];
        if (!(glm::length(towards) > 0.5)) towards = glm::dvec3(0, 1, 0);
        std::vector<std::uint32_t> island{seeds[s]};
        out.chart[seeds[s]] = id;
        for (std::size_t i = 0; i < island.size(); ++i)
            for (const std::uint32_t next : sheet.beside[island[i]]) {
                if (next == noTriangle || out.chart[next] >= 0 || returned[next] >= mostReturns) continue;
                if (returned[island[i]] >= mostReturns) continue;
                const bool flatEnough = glm::dot(sheet.normals[next], towards) >= least;
                if (!flatEnough && sheet.areas[next] > 0) continue;
                out.chart[next] = id;
                island.push_back(next);
            }
        const Flat flat(towards);
        for (const std::uint32_t t : folded(sheet, island, flat)) {
            out.chart[t] = -1;
            ++returned[t];
            seeds.push_back(t);
        }
        for (const std::uint32_t t : island) {
            if (out.chart[t] != id) continue;
            ++laid;
            for (std::size_t k = 0; k < 3; ++k) out.at[t][k] = flat.of(sheet.places[3 * std::size_t(t) + k]);
        }
    }
    return out;
}

} // namespace zl::uv
