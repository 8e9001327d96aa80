#include "core/formats/obj_assembler.h"

#include "core/base/huge_pages.h"
#include "core/geometry/polygon.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <unordered_map>

namespace zl::formats::obj {

namespace {

void sortIntoParts(Mesh& mesh, const std::vector<int>& materials) {
    if (!std::ranges::is_sorted(materials)) {
        std::vector<std::uint32_t> all(mesh.positions.size());
        for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
        auto indices = std::move(mesh.indices);
        mesh = withVertices(mesh, all, std::move(indices), wearOf(materials));
        return;
    }
    for (std::uint32_t t = 0; t < materials.size(); ++t) {
        if (mesh.runs.empty() || mesh.runs.back().material != materials[t])
            mesh.runs.push_back({t, 0, materials[t]});
        ++mesh.runs.back().triangleCount;
    }
}

/// From so many corners at one position on they are looked up and not gone through.
constexpr std::uint32_t crowd = 24;

struct CornerHash {
    std::size_t operator()(const Corner& c) const {
        return (std::size_t(std::uint32_t(c.position)) * 0x9e3779b97f4a7c15ull ^ std::uint32_t(c.uv)) *
                   0xbf58476d1ce4e5b9ull ^
               std::size_t(std::uint32_t(c.normal)) << 19;
    }
};
struct SameCorner {
    bool operator()(const Corner& a, const Corner& b) const {
        return a.position == b.position && a.uv == b.uv && a.normal == b.normal;
    }
};
/// New vertices at crowded positions, by corner.
using Crowds = std::unordered_map<Corner, std::uint32_t, CornerHash, SameCorner>;

/// Enters the newest vertex at a position; with it all that came before it when it is the one that makes a
/// crowd.
void addCrowd(Crowds& among, const std::vector<Corner>& made, const std::vector<std::uint32_t>& next,
              std::uint32_t newest, bool wasCrowded) {
    for (std::uint32_t v = newest; v != ~0u; v = wasCrowded ? ~0u : next[v]) among.try_emplace(made[v], v);
}

int resolveOne(int written, std::size_t before, std::size_t total) {
    if (written == absent) return absent;
    const long long index = written < relativeBase / 2 ? (long long)written - relativeBase + (long long)before
                                                       : (long long)written - 1;
    return index >= 0 && index < (long long)total ? static_cast<int>(index) : -1;
}

} // namespace

Assembler::Assembler(std::vector<Chunk>& chunks) : chunks_(chunks) {
    Totals sum{0, 0, 0};
    bool anyColour = false;
    for (const Chunk& chunk : chunks) {
        before_.push_back(sum);
        sum = {sum.positions + chunk.positions.size(), sum.uvs + chunk.uvs.size(),
               sum.normals + chunk.normals.size()};
        anyColour |= !chunk.colours.empty();
    }
    total_ = sum;
    resizeBig(positions_, sum.positions), resizeBig(uvs_, sum.uvs), resizeBig(normals_, sum.normals);
    if (anyColour) colours_.resize(sum.positions, glm::vec3(1.0f));
    tbb::parallel_for(std::size_t(0), chunks.size(), [&](std::size_t i) {
        Chunk& chunk = chunks[i];
        std::ranges::copy(chunk.positions, positions_.begin() + before_[i].positions);
        std::ranges::copy(chunk.uvs, uvs_.begin() + before_[i].uvs);
        std::ranges::copy(chunk.normals, normals_.begin() + before_[i].normals);
        if (anyColour) std::ranges::copy(chunk.colours, colours_.begin() + before_[i].positions);
        chunk.positions = {}, chunk.uvs = {}, chunk.normals = {}, chunk.colours = {};
    });
}

/// 0-based corner; position -1 when anything points outside the file.
Corner Assembler::resolve(const Corner& written, const Totals& before) const {
    Corner c{resolveOne(written.position, before.positions, total_.positions),
             resolveOne(written.uv, before.uvs, total_.uvs),
             resolveOne(written.normal, before.normals, total_.normals)};
    if (c.uv == -1 || c.normal == -1) c.position = -1;
    return c;
}

Mesh Assembler::assemble(const ObjectPlan& plan, bool only) {
    const Simple simple = simplicityOf(plan);
    return simple.holds ? assembleSimple(plan, simple, only) : assembleAny(plan);
}

Assembler::Simple Assembler::simplicityOf(const ObjectPlan& plan) const {
    std::vector<Simple> found(plan.runs.size());
    std::atomic<bool> broken{plan.runs.empty()};
    tbb::parallel_for(std::size_t(0), plan.runs.size(), [&](std::size_t r) {
        const ObjectPlan::Run& run = plan.runs[r];
        const Chunk& chunk = chunks_[run.chunk];
        const std::size_t first = chunk.faceStart[run.firstFace], last = faceEnd(chunk, run.lastFace - 1);
        const Corner* corners = chunk.corners.data();
        Simple own;
        own.uv = corners[first].uv != absent, own.normal = corners[first].normal != absent;
        own.polygons = last - first != 3 * (run.lastFace - run.firstFace);
        // By blocks, so that the inner loop is free of branches and stops soon all the same.
        for (std::size_t block = first; block < last && own.holds && !broken; block += 4096) {
            std::uint32_t lowest = own.lowest, highest = own.highest, differ = 0;
            for (std::size_t c = block; c < std::min(block + 4096, last); ++c) {
                const Corner& corner = corners[c];
                differ |= std::uint32_t(corner.uv ^ (own.uv ? corner.position : absent)) |
                          std::uint32_t(corner.normal ^ (own.normal ? corner.position : absent)) |
                          std::uint32_t(corner.position <= 0);
                const auto position = static_cast<std::uint32_t>(corner.position - 1);
                lowest = std::min(lowest, position), highest = std::max(highest, position);
            }
            own.holds = differ == 0, own.lowest = lowest, own.highest = highest;
        }
        if (!own.holds) broken = true;
        found[r] = own;
    });
    Simple all;
    all.holds = !broken;
    for (const Simple& one : found) {
        all.holds &= one.uv == found[0].uv && one.normal == found[0].normal;
        all.polygons |= one.polygons;
        all.lowest = std::min(all.lowest, one.lowest), all.highest = std::max(all.highest, one.highest);
    }
    if (!all.holds) return all;
    all.uv = found[0].uv, all.normal = found[0].normal;
    all.holds = all.highest < total_.positions && (!all.uv || all.highest < total_.uvs) &&
                (!all.normal || all.highest < total_.normals);
    // An object of few faces whose corners are strewn over the whole file's would go through all of them.
    std::size_t corners = 0;
    for (const ObjectPlan::Run& run : plan.runs)
        corners +=
            faceEnd(chunks_[run.chunk], run.lastFace - 1) - chunks_[run.chunk].faceStart[run.firstFace];
    if (all.highest - all.lowest > 8 * corners + 4096) all.holds = false;
    return all;
}

Mesh Assembler::assembleSimple(const ObjectPlan& plan, const Simple& simple, bool only) {
    Mesh mesh;
    mesh.name = plan.name;
    const std::size_t span = simple.highest - simple.lowest + 1;
    std::vector<char> used(span, 0);
    std::vector<std::size_t> firstIndex(plan.runs.size() + 1, 0);
    std::vector<std::vector<std::uint32_t>> cutUp(plan.runs.size()); // runs with polygons
    tbb::parallel_for(std::size_t(0), plan.runs.size(), [&](std::size_t r) {
        const ObjectPlan::Run& run = plan.runs[r];
        const Chunk& chunk = chunks_[run.chunk];
        const std::size_t first = chunk.faceStart[run.firstFace], last = faceEnd(chunk, run.lastFace - 1);
        for (std::size_t c = first; c < last; ++c)
            std::atomic_ref(used[static_cast<std::uint32_t>(chunk.corners[c].position - 1) - simple.lowest])
                .store(1, std::memory_order_relaxed);
        if (simple.polygons) {
            std::vector<glm::vec3> outline;
            std::vector<std::uint32_t> local;
            for (std::size_t f = run.firstFace; f < run.lastFace; ++f) {
                outline.clear(), local.clear();
                const std::size_t start = chunk.faceStart[f], end = faceEnd(chunk, f);
                for (std::size_t c = start; c < end; ++c)
                    outline.push_back(positions_[chunk.corners[c].position - 1]);
                if (outline.size() == 3)
                    local = {0, 1, 2};
                else
                    geometry::triangulate(outline, local);
                for (const std::uint32_t k : local)
                    cutUp[r].push_back(static_cast<std::uint32_t>(chunk.corners[start + k].position - 1));
            }
        }
        firstIndex[r + 1] = simple.polygons ? cutUp[r].size() : last - first;
    });
    for (std::size_t r = 0; r < plan.runs.size(); ++r) firstIndex[r + 1] += firstIndex[r];

    const bool whole = std::ranges::find(used, 0) == used.end();
    std::vector<std::uint32_t> newIndex;
    std::size_t count = span;
    if (!whole) {
        newIndex.resize(span);
        count = 0;
        for (std::size_t i = 0; i < span; ++i) {
            newIndex[i] = static_cast<std::uint32_t>(count);
            count += used[i] != 0;
        }
    }
    resizeBig(mesh.indices, firstIndex.back());
    tbb::parallel_for(std::size_t(0), plan.runs.size(), [&](std::size_t r) {
        const ObjectPlan::Run& run = plan.runs[r];
        const Chunk& chunk = chunks_[run.chunk];
        const Corner* corner = &chunk.corners[chunk.faceStart[run.firstFace]];
        for (std::size_t i = 0; i < firstIndex[r + 1] - firstIndex[r]; ++i) {
            const std::uint32_t at =
                (simple.polygons ? cutUp[r][i] : static_cast<std::uint32_t>(corner[i].position - 1)) -
                simple.lowest;
            mesh.indices[firstIndex[r] + i] = whole ? at : newIndex[at];
        }
    });
    const auto take = [&](auto& from, auto& to) {
        if (only && whole && simple.lowest == 0 && span == from.size()) {
            to = std::move(from);
            return;
        }
        to.resize(count);
        tbb::parallel_for(std::size_t(0), span, [&](std::size_t i) {
            if (used[i]) to[whole ? i : newIndex[i]] = from[simple.lowest + i];
        });
    };
    if (simple.uv) take(uvs_, mesh.uvSets.emplace_back());
    if (simple.normal) take(normals_, mesh.normals);
    if (!colours_.empty()) {
        std::vector<glm::vec3> colours;
        take(colours_, colours);
        for (const glm::vec3& colour : colours) mesh.colours.emplace_back(colour, 1.0f);
    }
    take(positions_, mesh.positions);

    std::vector<int> materials;
    if (!std::ranges::is_sorted(plan.runs, {}, &ObjectPlan::Run::material)) {
        for (std::size_t r = 0; r < plan.runs.size(); ++r)
            materials.resize(firstIndex[r + 1] / 3, plan.runs[r].material);
        sortIntoParts(mesh, materials);
        return mesh;
    }
    for (std::size_t r = 0; r < plan.runs.size(); ++r) {
        if (mesh.runs.empty() || mesh.runs.back().material != plan.runs[r].material)
            mesh.runs.push_back({static_cast<std::uint32_t>(firstIndex[r] / 3), 0, plan.runs[r].material});
        mesh.runs.back().triangleCount += static_cast<std::uint32_t>((firstIndex[r + 1] - firstIndex[r]) / 3);
    }
    return mesh;
}

Mesh Assembler::assembleAny(const ObjectPlan& plan) {
    head_.resize(total_.positions, ~0u);
    Mesh mesh;
    mesh.name = plan.name;
    std::vector<Corner> made; // of each new vertex
    std::vector<std::uint32_t> next, touched;
    std::vector<int> materials;
    bool anyUv = false, anyNormal = false;
    std::vector<std::uint32_t> polygon, cutUp;
    std::vector<glm::vec3> outline;
    Crowds among;
    for (const ObjectPlan::Run& run : plan.runs) {
        const Chunk& chunk = chunks_[run.chunk];
        for (std::size_t f = run.firstFace; f < run.lastFace; ++f) {
            const std::size_t start = chunk.faceStart[f];
            const std::size_t end = faceEnd(chunk, f);
            polygon.clear();
            bool usable = true;
            for (std::size_t c = start; c < end && usable; ++c) {
                const Corner corner = resolve(chunk.corners[c], before_[run.chunk]);
                if (corner.position < 0) {
                    usable = false;
                    break;
                }
                std::uint32_t v = head_[corner.position], passed = 0;
                while (v != ~0u && passed < crowd &&
                       (made[v].uv != corner.uv || made[v].normal != corner.normal))
                    v = next[v], ++passed;
                const bool crowded = v != ~0u && passed == crowd; // the tip of a cone, say
                if (crowded) {
                    const auto found = among.find(corner);
                    v = found == among.end() ? ~0u : found->second;
                }
                if (v == ~0u) {
                    v = static_cast<std::uint32_t>(made.size());
                    if (head_[corner.position] == ~0u)
                        touched.push_back(static_cast<std::uint32_t>(corner.position));
                    next.push_back(head_[corner.position]);
                    head_[corner.position] = v;
                    made.push_back(corner);
                    if (passed + 1 >= crowd) addCrowd(among, made, next, v, crowded);
                    anyUv |= corner.uv >= 0;
                    anyNormal |= corner.normal >= 0;
                }
                polygon.push_back(v);
            }
            if (!usable) {
                ++badFaces_;
                continue;
            }
            if (polygon.size() == 3) {
                mesh.indices.insert(mesh.indices.end(), polygon.begin(), polygon.end());
                materials.push_back(run.material);
                continue;
            }
            outline.clear(), cutUp.clear();
            for (const std::uint32_t v : polygon) outline.push_back(positions_[made[v].position]);
            geometry::triangulate(outline, cutUp);
            for (const std::uint32_t k : cutUp) mesh.indices.push_back(polygon[k]);
            materials.resize(mesh.indices.size() / 3, run.material);
        }
    }
    mesh.positions.resize(made.size());
    if (anyUv) mesh.uvSets.emplace_back(made.size(), glm::vec2(0.0f));
    if (anyNormal) mesh.normals.resize(made.size(), glm::vec3(0, 1, 0));
    if (!colours_.empty()) mesh.colours.resize(made.size());
    tbb::parallel_for(std::size_t(0), made.size(), [&](std::size_t v) {
        mesh.positions[v] = positions_[made[v].position];
        if (made[v].uv >= 0) mesh.uvSets[0][v] = uvs_[made[v].uv];
        if (made[v].normal >= 0) mesh.normals[v] = normals_[made[v].normal];
        if (!colours_.empty()) mesh.colours[v] = glm::vec4(colours_[made[v].position], 1.0f);
    });
    for (const std::uint32_t p : touched) head_[p] = ~0u;
    sortIntoParts(mesh, materials);
    return mesh;
}

} // namespace zl::formats::obj
