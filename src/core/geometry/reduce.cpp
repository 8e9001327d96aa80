#include "core/geometry/reduce.h"

#include "core/geometry/collapse.h"
#include "core/geometry/corners_apart.h"
#include "core/geometry/normals.h"
#include "core/geometry/weld.h"

#include <meshoptimizer.h>

#include <algorithm>
#include <cfloat>
#include <cstring>
#include <span>
#include <unordered_map>

namespace zl::geometry {

namespace {

/// The mesh with one vertex for each (place, UV, colour, bone weight, morph offset, material and surface
/// kind): what the collapse must tell apart, and nothing else. Normals are left out, for on faceted models
/// they would lock every edge.
struct Collapsible {
    Mesh mesh; ///< normals empty
    std::vector<Wear> vertexWear;
};

/// The triangles on the first of all corners that differ in normals and tangents only; joining never crosses
/// materials, UVs, colours, bone weights or morph offsets.
std::vector<std::uint32_t> joinedButForNormals(const Collapsible& from) {
    // Each corner's values in one row, for the library compares at most sixteen arrays.
    const Mesh& mesh = from.mesh;
    std::vector<std::pair<const char*, std::size_t>> arrays;
    const auto add = [&](const auto& values) {
        if (!values.empty())
            arrays.emplace_back(reinterpret_cast<const char*>(values.data()), sizeof values[0]);
    };
    add(mesh.positions), add(from.vertexWear), add(mesh.colours), add(mesh.joints), add(mesh.weights);
    for (const auto& set : mesh.uvSets) add(set);
    for (const MorphTarget& morph : mesh.morphs) add(morph.positions);
    std::vector<meshopt_Stream> streams;
    streams.reserve(arrays.size());
    for (const auto& [data, size] : arrays) streams.push_back({data, size, size});
    std::vector<char> rows;
    if (streams.size() > 16) {
        std::size_t width = 0, at = 0;
        for (const auto& [data, size] : arrays) width += size;
        rows.resize(width * mesh.vertexCount());
        for (const auto& [data, size] : arrays) {
            for (std::size_t v = 0; v < mesh.vertexCount(); ++v)
                std::memcpy(&rows[v * width + at], data + v * size, size);
            at += size;
        }
        streams.clear();
        for (std::size_t first = 0; first < width; first += 256) // what one array may hold at most
            streams.push_back({rows.data() + first, std::min<std::size_t>(256, width - first), width});
        if (streams.size() > 16) return mesh.indices;
    }
    std::vector<std::uint32_t> joined(mesh.indices.size());
    meshopt_generateShadowIndexBufferMulti(joined.data(), mesh.indices.data(), joined.size(),
                                           mesh.vertexCount(), streams.data(), streams.size());
    return joined;
}

/// Without the vertices that no triangle uses: the library takes one for the end of a seam at its place and
/// holds that place fast.
Collapsible withoutUnused(Collapsible from) {
    constexpr std::uint32_t none = ~0u;
    std::vector<std::uint32_t> keep, newIndex(from.mesh.vertexCount(), none);
    for (const std::uint32_t v : from.mesh.indices) newIndex[v] = 0;
    for (std::uint32_t v = 0; v < newIndex.size(); ++v)
        if (newIndex[v] != none) {
            newIndex[v] = static_cast<std::uint32_t>(keep.size());
            keep.push_back(v);
        }
    if (keep.size() == newIndex.size()) return from;
    for (std::uint32_t& v : from.mesh.indices) v = newIndex[v];
    Collapsible out;
    for (const std::uint32_t v : keep) out.vertexWear.push_back(from.vertexWear[v]);
    const std::vector<Wear> wear(from.mesh.triangleCount()); // the vertices know it
    out.mesh = withVertices(from.mesh, keep, std::move(from.mesh.indices), wear);
    return out;
}

Collapsible collapsible(const Mesh& mesh) {
    Mesh bare = mesh;
    bare.normals.clear();
    bare.tangents.clear();
    bare.surfaces.clear();
    const auto wear = triangleWear(mesh);
    Collapsible result;
    if (bare.uvSets.empty() && bare.colours.empty() && mesh.runs.size() <= 1 && mesh.surfaces.empty() &&
        mesh.normals.empty() && mesh.tangents.empty() && mesh.morphs.empty() && mesh.weights.empty()) {
        result.vertexWear.assign(bare.positions.size(), wear.empty() ? wearOf(-1) : wear[0]);
        result.mesh = std::move(bare);
        return withoutUnused(std::move(result));
    }
    // Vertices of several materials or surface kinds are doubled so that the border becomes a seam.
    std::vector<int> kinds(wear.size());
    std::ranges::transform(wear, kinds.begin(), [](Wear one) { return int(one); });
    result.mesh = cornersApart(bare, kinds, std::vector<Wear>(wear.size()));
    result.vertexWear.resize(result.mesh.vertexCount());
    for (std::size_t c = 0; c < result.mesh.indices.size(); ++c)
        result.vertexWear[result.mesh.indices[c]] = wear[c / 3];
    result.mesh.indices = joinedButForNormals(result);
    return withoutUnused(std::move(result));
}

/// Where corners stand that are at one place, each place's in a row.
class CornersAt {
public:
    explicit CornersAt(const std::vector<std::uint32_t>& place)
        : start_(place.size() + 1, 0), at_(place.size()) {
        for (const std::uint32_t p : place) ++start_[p + 1];
        for (std::size_t i = 0; i < place.size(); ++i) start_[i + 1] += start_[i];
        std::vector<std::uint32_t> fill(start_.begin(), start_.end() - 1);
        for (std::uint32_t v = 0; v < place.size(); ++v) at_[fill[place[v]]++] = v;
    }
    std::span<const std::uint32_t> of(std::uint32_t place) const {
        return std::span(at_).subspan(start_[place], start_[place + 1] - start_[place]);
    }

private:
    std::vector<std::uint32_t> start_, at_;
};

/// The corner among `corners` whose normal is nearest to a face's. Of very many (the tip of a cone) only some
/// are looked at.
std::uint32_t nearestNormal(const Mesh& mesh, std::span<const std::uint32_t> corners, const glm::vec3& face) {
    constexpr std::size_t most = 256;
    const std::size_t stride = 1 + corners.size() / most;
    std::uint32_t best = corners.front();
    float bestDot = -FLT_MAX;
    for (std::size_t i = 0; i < corners.size() && !mesh.normals.empty(); i += stride) {
        const float dot = glm::dot(mesh.normals[corners[i]], face);
        if (dot > bestDot) bestDot = dot, best = corners[i];
    }
    return best;
}

/// For each corner of the reduced mesh, the original corner at that place whose normal is nearest to the new
/// face: what was left out of the collapse (normals, tangents, morph normals) is taken from it.
Mesh withOriginalNormals(const Mesh& reduced, const Mesh& original) {
    // Places of the reduced mesh are a subset of the original's; find them by joining both lists.
    std::vector<glm::vec3> both = original.positions;
    both.insert(both.end(), reduced.positions.begin(), reduced.positions.end());
    auto joined = joinedPlaces(both, 0);
    const std::size_t offset = original.positions.size();
    const std::vector<std::uint32_t> placeOfReduced(joined.begin() + std::ptrdiff_t(offset), joined.end());
    joined.resize(offset);
    const CornersAt corners(joined);

    std::vector<std::uint32_t> keep, source, indices(reduced.indices.size());
    std::unordered_map<std::uint64_t, std::uint32_t> made; // (reduced vertex, chosen original) → new vertex
    for (std::size_t c = 0; c < reduced.indices.size(); ++c) {
        const std::uint32_t v = reduced.indices[c];
        const std::uint32_t best =
            nearestNormal(original, corners.of(placeOfReduced[v]), faceNormal(reduced, c / 3));
        const auto [entry, isNew] =
            made.try_emplace(std::uint64_t(v) << 32 | best, static_cast<std::uint32_t>(keep.size()));
        if (isNew) keep.push_back(v), source.push_back(best);
        indices[c] = entry->second;
    }
    Mesh out = withVertices(reduced, keep, std::move(indices), triangleWear(reduced));
    const auto take = [&](auto& to, const auto& from) {
        to.clear();
        if (from.empty()) return;
        for (const std::uint32_t v : source) to.push_back(from[v]);
    };
    take(out.normals, original.normals);
    take(out.tangents, original.tangents);
    for (std::size_t k = 0; k < out.morphs.size(); ++k)
        take(out.morphs[k].normals, original.morphs[k].normals);
    return out;
}

} // namespace

Mesh reduce(const Mesh& mesh, const ReduceGoal& goal, const Progress& progress) {
    if (mesh.indices.empty() || (goal.triangles == 0 && goal.largestDeviation <= 0)) return mesh;
    if (goal.triangles >= mesh.triangleCount()) return mesh;
    progress.report(0, "reducing triangles");
    const Collapsible work = collapsible(mesh);
    progress.report(0.1);
    const auto& positions = work.mesh.positions;
    float error = FLT_MAX;
    if (goal.largestDeviation > 0) {
        const float scale = meshopt_simplifyScale(&positions[0].x, positions.size(), sizeof(glm::vec3));
        error = scale > 0 ? float(goal.largestDeviation) / scale : FLT_MAX;
    }
    std::vector<std::uint32_t> indices;
    // Few triangles of a closed shape fold onto one another and are gone; asked for a number, some are to
    // stay.
    for (std::size_t wanted = goal.triangles; indices.empty() && wanted < mesh.triangleCount();
         wanted = std::max<std::size_t>(4, 2 * wanted)) {
        indices = collapsed(work.mesh.indices, positions, wanted, error, goal.holdOpenBorders);
        if (goal.triangles == 0) break;
    }
    if (indices.empty() && goal.triangles > 0) return mesh;
    const std::size_t count = indices.size();
    progress.report(0.9);

    std::vector<std::uint32_t> keep, newIndex(positions.size(), ~0u);
    std::vector<Wear> wear(count / 3);
    for (std::size_t c = 0; c < count; ++c) {
        if (c % 3 == 0) wear[c / 3] = work.vertexWear[indices[c]];
        std::uint32_t& n = newIndex[indices[c]];
        if (n == ~0u) {
            n = static_cast<std::uint32_t>(keep.size());
            keep.push_back(indices[c]);
        }
        indices[c] = n;
    }
    Mesh out = withVertices(work.mesh, keep, std::move(indices), wear);
    const auto hasNormals = [](const MorphTarget& morph) { return !morph.normals.empty(); };
    if (!mesh.normals.empty() || !mesh.tangents.empty() || std::ranges::any_of(mesh.morphs, hasNormals))
        out = withOriginalNormals(out, mesh);
    progress.report(1);
    return out;
}

} // namespace zl::geometry
