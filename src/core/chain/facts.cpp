#include "core/chain/facts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::chain {

using formats::Aspect;

namespace {

/// Sums over one mesh's triangles that do not depend on the order of parts.
void addMesh(Facts& facts, const Mesh& mesh, const glm::dmat4& toWorld,
             const std::vector<Material>& materials, double& area) {
    const Mesh placed = geometry::withPlacedUvs(mesh, materials);
    const glm::dmat3 linear(toWorld);
    const bool mirrors = glm::determinant(linear) < 0;
    const glm::dmat3 normalMatrix = geometry::normalMatrixOf(linear);
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const std::uint32_t* c = &mesh.indices[3 * t];
        const glm::dvec3 a = linear * glm::dvec3(mesh.positions[c[0]]),
                         b = linear * glm::dvec3(mesh.positions[c[1]]),
                         d = linear * glm::dvec3(mesh.positions[c[2]]);
        const glm::dvec3 face = glm::cross(b - a, d - a) * (mirrors ? -1.0 : 1.0);
        const double twice = glm::length(face);
        if (!(twice > 0)) continue;
        area += twice;
        if (!mesh.normals.empty())
            for (int k = 0; k < 3; ++k) {
                const glm::dvec3 n = normalMatrix * glm::dvec3(mesh.normals[c[k]]);
                const double length = glm::length(n);
                if (length > 0) facts.normalAgreement += glm::dot(n / length, face) / 3;
            }
        if (!mesh.colours.empty())
            for (int k = 0; k < 3; ++k) facts.colourMean += glm::dvec4(mesh.colours[c[k]]) * (twice / 3);
        if (!placed.uvSets.empty()) {
            const glm::dvec2 u(placed.uvSets[0][c[0]]), v(placed.uvSets[0][c[1]]), w(placed.uvSets[0][c[2]]);
            facts.uvArea += std::abs((v.x - u.x) * (w.y - u.y) - (v.y - u.y) * (w.x - u.x));
            facts.uvSum += (u.x + v.x + w.x + 2 * (u.y + v.y + w.y)) * twice;
        }
    }
}

} // namespace

Facts factsOf(const Model& model) {
    Facts facts;
    double area = 0;
    std::vector<std::string> path(model.nodes.size());
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        // Only the last few groups: deep trees would make the texts grow with the square of their depth.
        path[n] = node.parent >= 0 ? path[node.parent] + "/" + node.name : node.name;
        if (path[n].size() > 400) path[n] = path[n].substr(path[n].size() - 400);
    }
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        facts.bounds.add(geometry::meshBounds(mesh, toWorld));
        facts.triangles += mesh.triangleCount();
        ++facts.objects;
        facts.names.push_back(model.nodes[node].name);
        facts.paths.push_back(path[node]);
        for (const MaterialRun& run : mesh.runs) {
            if (run.triangleCount == 0) continue;
            if (run.material < 0) {
                facts.plainTriangles += run.triangleCount;
                continue;
            }
            const Material& material = model.materials[run.material];
            facts.materials[material.name] += run.triangleCount;
            if (const int picture = material.image(PictureRole::Colour); picture >= 0) {
                const Image& image = *model.images[picture];
                facts.pictures[material.name] = fmt::format("{}×{}", image.width, image.height);
            }
        }
        facts.uvs |= !mesh.uvSets.empty(), facts.normals |= !mesh.normals.empty(),
            facts.colours |= !mesh.colours.empty();
        for (const MorphTarget& morph : mesh.morphs) facts.morphs.push_back(morph.name);
        addMesh(facts, mesh, toWorld, model.materials, area);
    });
    if (area > 0) {
        facts.normalAgreement /= area;
        facts.uvSum /= area;
        facts.colourMean /= area;
    }
    for (const int m : usedMaterials(model))
        if (m >= 0 && model.materials[m].image(PictureRole::Colour) >= 0)
            facts.placements += !model.materials[m].picture(PictureRole::Colour).placement.isPlain();
    for (const Skin& skin : model.skins)
        for (const int joint : skin.joints)
            if (joint >= 0) facts.bones.push_back(model.nodes[joint].name);
    for (const auto& clip : model.clips) facts.clips.push_back(clip->name);
    for (auto* list : {&facts.names, &facts.paths, &facts.bones, &facts.clips, &facts.morphs})
        std::ranges::sort(*list);
    return facts;
}

} // namespace zl::chain
