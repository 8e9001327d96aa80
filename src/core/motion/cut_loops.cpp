#include "core/motion/cut_loops.h"

#include "core/geometry/number_table.h"

#include <algorithm>
#include <bit>
#include <map>

namespace zl::motion {

namespace {

/// A number for each corner, the same for those at one place.
std::vector<std::uint32_t> placesOf(const Mesh& mesh) {
    geometry::NumberTable table(mesh.vertexCount());
    std::vector<std::uint32_t> out(mesh.vertexCount());
    const auto same = [&](std::uint32_t a, std::uint32_t b) {
        return mesh.positions[a] == mesh.positions[b];
    };
    for (std::uint32_t v = 0; v < out.size(); ++v) {
        std::uint64_t hash = 0;
        // Adding zero makes one of both zeros.
        for (int k = 0; k < 3; ++k)
            hash = geometry::mixed(hash ^ std::bit_cast<std::uint32_t>(mesh.positions[v][k] + 0.0f));
        out[v] = table.findOrAdd(hash, v, [&](std::uint32_t other) { return same(v, other); });
    }
    return out;
}

struct Side {
    std::uint32_t from, to; ///< places
    std::uint32_t corner;   ///< at `from`
    std::uint32_t triangle;
};

} // namespace

std::vector<CutLoop> cutLoops(const Mesh& mesh, const std::vector<int>& groups) {
    const auto places = placesOf(mesh);
    const auto wear = triangleWear(mesh);
    std::vector<Side> sides;
    sides.reserve(mesh.indices.size());
    for (std::size_t i = 0; i < mesh.indices.size(); ++i) {
        const std::size_t next = i % 3 == 2 ? i - 2 : i + 1;
        const std::uint32_t from = places[mesh.indices[i]], to = places[mesh.indices[next]];
        if (from != to) sides.push_back({from, to, mesh.indices[i], std::uint32_t(i / 3)});
    }
    const auto before = [](const Side& a, const Side& b) {
        return std::tie(a.from, a.to, a.triangle) < std::tie(b.from, b.to, b.triangle);
    };
    std::ranges::sort(sides, before);
    const auto along = [&](std::uint32_t from, std::uint32_t to) {
        const auto low = std::ranges::lower_bound(sides, Side{from, to, 0, 0}, before);
        auto high = low;
        while (high != sides.end() && high->from == from && high->to == to) ++high;
        return std::span<const Side>(low, high);
    };

    // Edges of a group whose other side belongs to others alone, by group and where they begin.
    struct Open {
        std::uint32_t to, corner, triangle;
        int beyond;
        bool used = false;
    };
    std::map<std::pair<int, std::uint32_t>, std::vector<Open>> open;
    for (const Side& side : sides) {
        const int group = groups[side.triangle];
        int beyond = -1;
        bool cut = false, whole = false;
        for (const Side& other : along(side.to, side.from)) {
            if (groups[other.triangle] == group)
                whole = true;
            else
                cut = true, beyond = groups[other.triangle];
        }
        if (cut && !whole) open[{group, side.from}].push_back({side.to, side.corner, side.triangle, beyond});
    }
    std::vector<CutLoop> loops;
    for (auto& [key, starts] : open)
        for (Open& start : starts) {
            if (start.used) continue;
            CutLoop loop{key.first, {}, {}, wear[start.triangle]};
            std::uint32_t at = key.second;
            for (Open* edge = &start; edge;) {
                edge->used = true;
                loop.corners.push_back(edge->corner), loop.beyond.push_back(edge->beyond);
                at = edge->to;
                if (at == key.second) break;
                const auto found = open.find({key.first, at});
                edge = nullptr;
                if (found != open.end()) {
                    const auto next = std::ranges::find(found->second, false, &Open::used);
                    if (next != found->second.end()) edge = &*next;
                }
            }
            if (at == key.second && loop.corners.size() >= 3) loops.push_back(std::move(loop));
        }
    return loops;
}

} // namespace zl::motion
