#include "core/uv/moved_uvs.h"

#include "core/base/error.h"
#include "core/geometry/corners_apart.h"
#include "core/geometry/parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace zl::uv {

namespace {

/// UV sets of a material with the placement of the first role that is on each; the first set for a material
/// without pictures.
std::map<int, UvPlacement> setsOf(const Material* material) {
    std::map<int, UvPlacement> sets;
    if (material)
        for (const PictureUse& use : material->pictures)
            if (use) sets.try_emplace(use.uvSet, use.placement);
    if (sets.empty()) sets.try_emplace(0);
    return sets;
}

/// `map` of placed UVs as one of the UVs themselves.
glm::dmat3 behind(const UvPlacement& placement, const glm::dmat3& map, const std::string& material) {
    if (placement.isPlain()) return map;
    const glm::dmat3 placed = placement.matrix();
    if (!(std::abs(glm::determinant(placed)) > 1e-18))
        throw Error(fmt::format("the pictures of \"{}\" are scaled to nothing", material), {},
                    "Give the material's pictures a scale other than 0 where the model was made.");
    return glm::inverse(placed) * map * placed;
}

Mesh moved(const Model& model, const Mesh& mesh, const std::vector<char>& marked, int node,
           const UvMap& map) {
    const auto materials = triangleMaterials(mesh);
    std::vector<int> kind(materials.size(), 0);
    for (std::size_t t = 0; t < kind.size(); ++t)
        if (marked[t]) kind[t] = materials[t] + 2;
    Mesh out = geometry::cornersInOrder(mesh, kind);
    out.tangents.clear();
    std::vector<int> kindOf(out.vertexCount(), 0);
    for (std::size_t c = 0; c < out.indices.size(); ++c) kindOf[out.indices[c]] = kind[c / 3];
    std::map<int, std::map<int, glm::dmat3>> byKind; // the set's maps
    for (const int k : kind) {
        if (k == 0 || byKind.contains(k)) continue;
        const Material* material = k >= 2 ? &model.materials[std::size_t(k - 2)] : nullptr;
        const glm::dmat3 wanted = map(node, k - 2);
        auto& maps = byKind[k];
        for (const auto& [set, placement] : setsOf(material))
            maps[set] = behind(placement, wanted, material ? material->name : "");
    }
    for (std::size_t v = 0; v < kindOf.size(); ++v) {
        if (kindOf[v] == 0) continue;
        for (const auto& [set, to] : byKind[kindOf[v]])
            if (std::size_t(set) < out.uvSets.size()) {
                glm::vec2& uv = out.uvSets[std::size_t(set)][v];
                uv = glm::vec2(to * glm::dvec3(glm::dvec2(uv), 1));
            }
    }
    return out;
}

} // namespace

Model withMovedUvs(const Model& model, const MarkedFaces& marked, const UvMap& map) {
    Model out = model;
    for (std::size_t n = 0; n < model.nodes.size() && n < marked.size(); ++n) {
        if (model.nodes[n].mesh < 0 || !std::ranges::count(marked[n], 1)) continue;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[n].mesh)];
        out.nodes[n].mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(moved(model, mesh, marked[n], int(n), map)));
    }
    return geometry::withoutNodes(out, std::vector<char>(out.nodes.size(), 0));
}

} // namespace zl::uv
