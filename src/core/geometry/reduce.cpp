#include "core/geometry/reduce.h"

#include "core/geometry/normals.h"
#include "core/geometry/weld.h"

#include <meshoptimizer.h>

#include <cfloat>
#include <unordered_map>

namespace zl::geometry {

namespace {

/// The mesh with one vertex for each (place, UV, colour, skin weight, material): what the collapse must tell
/// apart, and nothing else. Normals are left out, for on faceted models they would lock every edge.
struct Collapsible {
    Mesh mesh; ///< normals empty
    std::vector<int> vertexMaterial;
};

Collapsible collapsible(const Mesh& mesh) {
    Mesh bare = mesh;
    bare.normals.clear();
    bare.tangents.clear();
    const auto materials = triangleMaterials(mesh);
    Collapsible result;
    if (bare.uvSets.empty() && bare.colours.empty() && mesh.parts.size() <= 1 && mesh.normals.empty()) {
        result.vertexMaterial.assign(bare.positions.size(), mesh.parts.empty() ? -1 : mesh.parts[0].material);
        result.mesh = std::move(bare);
        return result;
    }
    // Vertices used by several materials are doubled so that the border becomes a seam.
    std::vector<int> owner(bare.positions.size(), -2);
    std::vector<std::uint32_t> keep, indices(bare.indices.size());
    std::unordered_map<std::uint64_t, std::uint32_t> extra;
    std::vector<std::uint32_t> first(bare.positions.size(), ~0u);
    for (std::size_t c = 0; c < bare.indices.size(); ++c) {
        const std::uint32_t v = bare.indices[c];
        const int material = materials[c / 3];
        std::uint32_t* slot = &first[v];
        if (owner[v] == -2) owner[v] = material;
        if (owner[v] != material)
            slot = &extra.try_emplace(std::uint64_t(v) << 32 | std::uint32_t(material), ~0u).first->second;
        if (*slot == ~0u) {
            *slot = static_cast<std::uint32_t>(keep.size());
            keep.push_back(v);
            result.vertexMaterial.push_back(material);
        }
        indices[c] = *slot;
    }
    result.mesh = withVertices(bare, keep, std::move(indices), materials);
    // Join those that differ in normals only; joining never crosses materials.
    std::vector<meshopt_Stream> streams{{result.mesh.positions.data(), sizeof(glm::vec3), sizeof(glm::vec3)},
                                        {result.vertexMaterial.data(), sizeof(int), sizeof(int)}};
    for (const auto& set : result.mesh.uvSets)
        streams.push_back({set.data(), sizeof(glm::vec2), sizeof(glm::vec2)});
    if (!result.mesh.colours.empty())
        streams.push_back({result.mesh.colours.data(), sizeof(glm::vec4), sizeof(glm::vec4)});
    if (streams.size() <= 16) {
        std::vector<std::uint32_t> shadow(result.mesh.indices.size());
        meshopt_generateShadowIndexBufferMulti(shadow.data(), result.mesh.indices.data(), shadow.size(),
                                               result.mesh.positions.size(), streams.data(), streams.size());
        result.mesh.indices = std::move(shadow);
    }
    return result;
}

/// For each corner of the reduced mesh, the original normal at that place and UV nearest to the new face.
Mesh withOriginalNormals(const Mesh& reduced, const Mesh& original) {
    const auto place = joinedPlaces(original.positions, 0);
    std::vector<std::uint32_t> next(original.positions.size(), ~0u), head(original.positions.size(), ~0u);
    for (std::uint32_t v = 0; v < place.size(); ++v) {
        next[v] = head[place[v]];
        head[place[v]] = v;
    }
    // Places of the reduced mesh are a subset of the original's; find them by joining both lists.
    std::vector<glm::vec3> both = original.positions;
    both.insert(both.end(), reduced.positions.begin(), reduced.positions.end());
    const auto joined = joinedPlaces(both, 0);
    const std::size_t offset = original.positions.size();

    std::vector<std::uint32_t> keep, indices(reduced.indices.size());
    std::vector<glm::vec3> normals;
    std::unordered_map<std::uint64_t, std::uint32_t> made; // (reduced vertex, chosen original) → new vertex
    for (std::size_t c = 0; c < reduced.indices.size(); ++c) {
        const std::uint32_t v = reduced.indices[c];
        const glm::vec3 face = faceNormal(reduced, c / 3);
        std::uint32_t best = ~0u;
        float bestDot = -FLT_MAX;
        for (std::uint32_t o = head[joined[offset + v]]; o != ~0u; o = next[o]) {
            const float dot = glm::dot(original.normals[o], face);
            if (dot > bestDot) bestDot = dot, best = o;
        }
        const glm::vec3 normal = best != ~0u ? original.normals[best] : glm::normalize(face);
        const auto [entry, isNew] =
            made.try_emplace(std::uint64_t(v) << 32 | best, static_cast<std::uint32_t>(keep.size()));
        if (isNew) {
            keep.push_back(v);
            normals.push_back(normal);
        }
        indices[c] = entry->second;
    }
    Mesh out = withVertices(reduced, keep, std::move(indices), triangleMaterials(reduced));
    out.normals = std::move(normals);
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
    std::vector<std::uint32_t> indices(work.mesh.indices.size());
    const std::size_t count =
        meshopt_simplify(indices.data(), work.mesh.indices.data(), indices.size(), &positions[0].x,
                         positions.size(), sizeof(glm::vec3), goal.triangles * 3, error,
                         goal.holdOpenBorders ? meshopt_SimplifyLockBorder : 0, nullptr);
    indices.resize(count);
    progress.report(0.9);

    std::vector<std::uint32_t> keep, newIndex(positions.size(), ~0u);
    std::vector<int> materials(count / 3);
    for (std::size_t c = 0; c < count; ++c) {
        if (c % 3 == 0) materials[c / 3] = work.vertexMaterial[indices[c]];
        std::uint32_t& n = newIndex[indices[c]];
        if (n == ~0u) {
            n = static_cast<std::uint32_t>(keep.size());
            keep.push_back(indices[c]);
        }
        indices[c] = n;
    }
    Mesh out = withVertices(work.mesh, keep, std::move(indices), materials);
    if (!mesh.normals.empty()) out = withOriginalNormals(out, mesh);
    progress.report(1);
    return out;
}

} // namespace zl::geometry
