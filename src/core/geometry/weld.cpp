#include "core/geometry/weld.h"

#include "core/base/hash.h"
#include "core/base/huge_pages.h"
#include "core/geometry/number_table.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <atomic>
#include <bit>
#include <cmath>
#include <cstring>
#include <numeric>
#include <optional>

namespace zl::geometry {

namespace {

constexpr std::uint32_t nobody = ~0u;

std::uint64_t hashPlace(const glm::vec3& p) {
    // Adding zero turns -0 into +0, so that equal numbers have equal bits.
    const auto bits = [](float f) { return std::uint64_t(std::bit_cast<std::uint32_t>(f + 0.0f)); };
    return mixed((bits(p.x) | bits(p.y) << 32) ^ mixed(bits(p.z)));
}

std::uint64_t hashCell(const glm::i64vec3& c) {
    return mixed(std::uint64_t(c.x) * 0x9e3779b97f4a7c15ull ^
                 mixed(std::uint64_t(c.y) ^ mixed(std::uint64_t(c.z))));
}

bool finite(const glm::vec3& p) {
    return std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z);
}

std::vector<std::uint32_t> exactPlaces(const std::vector<glm::vec3>& positions, const Progress& progress) {
    std::vector<std::uint32_t> result(positions.size());
    NumberTable table(positions.size());
    for (std::uint32_t i = 0; i < positions.size(); ++i) {
        if ((i & 0xfffff) == 0) progress.report(double(i) / positions.size());
        const glm::vec3& p = positions[i];
        result[i] = finite(p)
                        ? table.findOrAdd(hashPlace(p), i, [&](std::uint32_t o) { return positions[o] == p; })
                        : i;
    }
    return result;
}

/// Joins representatives (from exactPlaces) that lie within `tolerance`, with cells of that size: a match can
/// only be in the cell itself or one of its 26 neighbours.
void joinNear(const std::vector<glm::vec3>& positions, float tolerance, std::vector<std::uint32_t>& place,
              const Progress& progress) {
    std::vector<std::uint32_t> firsts;
    for (std::uint32_t i = 0; i < place.size(); ++i)
        if (place[i] == i && finite(positions[i])) firsts.push_back(i);
    std::vector<std::uint32_t> head(std::bit_ceil(firsts.size() * 2 + 16), nobody),
        next(positions.size(), nobody);
    const std::size_t mask = head.size() - 1;
    const auto cellOf = [&](const glm::vec3& p) {
        return glm::i64vec3(glm::floor(glm::dvec3(p) / double(tolerance)));
    };
    for (std::size_t n = 0; n < firsts.size(); ++n) {
        if ((n & 0xffff) == 0) progress.report(double(n) / firsts.size());
        const std::uint32_t i = firsts[n];
        const glm::i64vec3 cell = cellOf(positions[i]);
        std::uint32_t match = nobody;
        for (int k = 0; k < 27; ++k) {
            const glm::i64vec3 near = cell + glm::i64vec3(k % 3 - 1, k / 3 % 3 - 1, k / 9 - 1);
            for (std::uint32_t o = head[hashCell(near) & mask]; o != nobody; o = next[o])
                if (o < match && glm::distance(positions[o], positions[i]) <= tolerance) match = o;
        }
        if (match != nobody) {
            place[i] = match;
        } else {
            const std::size_t slot = hashCell(cell) & mask;
            next[i] = head[slot];
            head[slot] = i;
        }
    }
    for (std::uint32_t& p : place) p = place[p]; // vertices that stood on a joined one follow it
}

std::uint64_t hashAttributes(const Mesh& mesh, std::uint32_t v) {
    std::uint64_t h = 0;
    const auto add = [&](const auto& array) {
        if (!array.empty()) h = hashBytes(&array[v], sizeof array[v], h);
    };
    add(mesh.normals);
    add(mesh.tangents);
    for (const auto& set : mesh.uvSets) add(set);
    add(mesh.colours);
    add(mesh.joints);
    add(mesh.weights);
    for (const MorphTarget& morph : mesh.morphs) add(morph.positions), add(morph.normals);
    return h;
}

bool sameAttributes(const Mesh& mesh, std::uint32_t a, std::uint32_t b) {
    const auto same = [&](const auto& array) {
        return array.empty() || std::memcmp(&array[a], &array[b], sizeof array[a]) == 0;
    };
    if (!same(mesh.normals) || !same(mesh.tangents) || !same(mesh.colours) || !same(mesh.joints) ||
        !same(mesh.weights))
        return false;
    for (const auto& set : mesh.uvSets)
        if (!same(set)) return false;
    for (const MorphTarget& morph : mesh.morphs)
        if (!same(morph.positions) || !same(morph.normals)) return false;
    return true;
}

bool hasAttributes(const Mesh& mesh) {
    return !(mesh.normals.empty() && mesh.tangents.empty() && mesh.uvSets.empty() && mesh.colours.empty() &&
             mesh.joints.empty() && mesh.weights.empty() && mesh.morphs.empty());
}

/// The places among some corners, each once and numbered in the order in which they are met.
class PlaceTable {
public:
    /// A closed surface has about six corners to a place; the table grows where there are fewer.
    explicit PlaceTable(std::size_t corners) { makeTable(std::bit_ceil(corners / 3 + 16)); }

    std::uint32_t findOrAdd(const glm::vec3& p, std::uint64_t hash) {
        const std::size_t at = slotOf(p, hash);
        if (slots_[at] != nobody) return slots_[at];
        slots_[at] = static_cast<std::uint32_t>(all.size());
        all.push_back(p);
        if (all.size() * 3 > slots_.size() * 2) grow();
        return static_cast<std::uint32_t>(all.size()) - 1;
    }
    std::uint32_t find(const glm::vec3& p) const { return slots_[slotOf(p, hashPlace(p))]; }
    void prefetch(std::uint64_t hash) const { __builtin_prefetch(&slots_[hash & mask_]); }

    std::vector<glm::vec3> all;

private:
    std::size_t slotOf(const glm::vec3& p, std::uint64_t hash) const {
        std::size_t at = hash & mask_;
        while (slots_[at] != nobody && all[slots_[at]] != p) at = (at + 1) & mask_;
        return at;
    }
    void makeTable(std::size_t size) {
        slots_ = {};
        slots_.reserve(size);
        preferHugePages(slots_.data(), size * sizeof(std::uint32_t));
        slots_.assign(size, nobody);
        mask_ = size - 1;
    }
    void grow() {
        makeTable(2 * slots_.size());
        for (std::uint32_t i = 0; i < all.size(); ++i) slots_[slotOf(all[i], hashPlace(all[i]))] = i;
    }

    std::vector<std::uint32_t> slots_;
    std::size_t mask_ = 0;
};

/// weld() for the common case of a scan: positions only, joined where exactly equal. Each thread takes a run
/// of corners with a table of its own; a place that an earlier run has met too takes that one's number. So
/// numbers follow the first corner at each place, and the result does not depend on the number of threads.
/// Nothing when a corner is not finite.
std::optional<WeldResult> weldBare(const Mesh& mesh, const Progress& progress) {
    const std::size_t count = mesh.indices.size();
    const auto runs = static_cast<std::size_t>(std::clamp(tbb::this_task_arena::max_concurrency(), 1, 16));
    const auto firstOf = [&](std::size_t run) { return count * run / runs; };
    WeldResult result;
    auto& indices = result.mesh.indices; // the place within the run first
    resizeBig(indices, count);
    std::vector<std::optional<PlaceTable>> places(runs);
    std::atomic<bool> allFinite{true};
    tbb::parallel_for(std::size_t(0), runs, [&](std::size_t run) {
        PlaceTable& own = places[run].emplace(firstOf(run + 1) - firstOf(run));
        // By small blocks, so that the table's slots are on their way while the next hashes are made.
        constexpr std::size_t block = 64;
        std::uint64_t hash[block];
        for (std::size_t c = firstOf(run), end = firstOf(run + 1); c < end; c += block) {
            const std::size_t size = std::min(block, end - c);
            bool good = true;
            for (std::size_t k = 0; k < size; ++k) {
                const glm::vec3& p = mesh.positions[mesh.indices[c + k]];
                good &= finite(p);
                hash[k] = hashPlace(p);
                own.prefetch(hash[k]);
            }
            if (!good) {
                allFinite = false;
                return;
            }
            for (std::size_t k = 0; k < size; ++k)
                indices[c + k] = own.findOrAdd(mesh.positions[mesh.indices[c + k]], hash[k]);
            if ((c & 0xfffff) < block) progress.checkCancel();
        }
    });
    if (!allFinite) return std::nullopt;
    progress.report(0.6);

    // For each place the number it takes over, from the first earlier run that has it.
    struct Known {
        std::uint32_t run, place;
    };
    std::vector<std::vector<Known>> known(runs);
    tbb::parallel_for(std::size_t(0), runs, [&](std::size_t run) {
        known[run].assign(places[run]->all.size(), {nobody, 0});
        tbb::parallel_for(std::size_t(0), known[run].size(), [&](std::size_t i) {
            for (std::uint32_t before = 0; before < run && known[run][i].run == nobody; ++before)
                if (const auto found = places[before]->find(places[run]->all[i]); found != nobody)
                    known[run][i] = {before, found};
        });
    });
    auto& kept = result.mesh.positions;
    std::vector<std::vector<std::uint32_t>> number(runs);
    for (std::size_t run = 0; run < runs; ++run) {
        number[run].reserve(known[run].size());
        for (std::size_t i = 0; i < known[run].size(); ++i) {
            const Known& earlier = known[run][i];
            if (earlier.run != nobody) {
                number[run].push_back(number[earlier.run][earlier.place]);
            } else {
                number[run].push_back(static_cast<std::uint32_t>(kept.size()));
                kept.push_back(places[run]->all[i]);
            }
        }
    }
    progress.report(0.9);
    tbb::parallel_for(std::size_t(0), runs, [&](std::size_t run) {
        for (std::size_t c = firstOf(run); c < firstOf(run + 1); ++c) indices[c] = number[run][indices[c]];
    });
    result.mesh.name = mesh.name;
    dressAs(result.mesh, mesh);
    result.cornersJoined = mesh.positions.size() - kept.size();
    progress.report(1);
    return result;
}

} // namespace

std::vector<std::uint32_t> joinedPlaces(const std::vector<glm::vec3>& positions, float tolerance,
                                        const Progress& progress) {
    auto place = exactPlaces(positions, progress.between(0, tolerance > 0 ? 0.4 : 1));
    if (tolerance > 0) joinNear(positions, tolerance, place, progress.between(0.4, 1));
    return place;
}

WeldResult weld(const Mesh& mesh, float tolerance, const Progress& progress) {
    if (tolerance <= 0 && !hasAttributes(mesh))
        if (auto result = weldBare(mesh, progress)) return std::move(*result);
    const auto place = joinedPlaces(mesh.positions, tolerance, progress.between(0, 0.7));
    std::vector<std::uint32_t> merged = place;
    if (hasAttributes(mesh)) {
        NumberTable table(mesh.positions.size());
        for (std::uint32_t i = 0; i < merged.size(); ++i)
            merged[i] = table.findOrAdd(mixed(place[i]) ^ hashAttributes(mesh, i), i, [&](std::uint32_t o) {
                return place[o] == place[i] && sameAttributes(mesh, o, i);
            });
    }
    progress.report(0.8);
    std::vector<std::uint32_t> newIndex(mesh.positions.size(), nobody), keep, indices(mesh.indices.size());
    for (std::size_t i = 0; i < mesh.indices.size(); ++i) {
        const std::uint32_t v = merged[mesh.indices[i]];
        if (newIndex[v] == nobody) {
            newIndex[v] = static_cast<std::uint32_t>(keep.size());
            keep.push_back(v);
        }
        indices[i] = newIndex[v];
    }
    WeldResult result;
    result.mesh = withVertices(mesh, keep, std::move(indices), triangleWear(mesh));
    for (std::size_t i = 0; i < keep.size(); ++i) result.mesh.positions[i] = mesh.positions[place[keep[i]]];
    result.cornersJoined = mesh.positions.size() - keep.size();
    progress.report(1);
    return result;
}

} // namespace zl::geometry
