#include "standins/shed/asset_mesh.h"

#include "standins/world/collada_file.h"
#include "standins/world/glb_tree.h"

namespace zl::standins::shed {

namespace {

/// From the world's axes (Z up, front -Y) to the shown ones (Y up, front +Z).
glm::vec3 shown(const glm::vec3& v) {
    return {v.x, v.z, -v.y};
}

AssetMesh fromGlb(const std::string& bytes) {
    AssetMesh out;
    auto tree = world::readGlbTree(bytes);
    out.problem = tree.problem;
    for (world::GlbNode& node : tree.nodes)
        for (world::GlbSurface& surface : node.surfaces)
            out.add({node.name,
                     surface.material < 0 ? "" : tree.materials[std::size_t(surface.material)].name,
                     std::move(surface.shape)});
    return out;
}

AssetMesh fromCollada(const std::string& bytes) {
    AssetMesh out;
    const auto file = world::readColladaFile(bytes);
    out.problem = file.problem;
    if (out.problem.empty() && file.unitMetres != 1) out.problem = "its unit is not the metre";
    if (out.problem.empty() && file.upAxis != "Z_UP")
        out.problem = "it declares " + file.upAxis + ", not Z_UP";
    if (out.problem.empty() && !file.transformed.empty())
        out.problem = "\"" + file.transformed[0] + "\" carries a transform";
    if (!out.problem.empty()) return out;
    for (const auto& part : file.parts)
        for (const auto& worn : part.worn) {
            // Every corner of the file is one of the shape's own, in the order of the triangles.
            world::Shape shape;
            for (std::size_t i = worn.first; i < worn.first + worn.count; ++i) {
                const std::uint32_t corner = part.shape.indices[i];
                shape.positions.push_back(part.shape.positions[corner]);
                if (!part.shape.normals.empty()) shape.normals.push_back(part.shape.normals[corner]);
                shape.uvs.push_back(part.shape.uvs[corner]);
                shape.indices.push_back(std::uint32_t(shape.indices.size()));
            }
            world::turnAll(shape, shown);
            world::addMissingNormals(shape);
            out.add({part.name, worn.material, std::move(shape)});
        }
    return out;
}

} // namespace

void AssetMesh::add(MeshSurface surface) {
    if (surface.shape.positions.empty()) return;
    triangles += surface.shape.indices.size() / 3;
    low = glm::min(low, surface.shape.low());
    high = glm::max(high, surface.shape.high());
    surfaces.push_back(std::move(surface));
}

AssetMesh readAssetMesh(const std::string& name, const std::string& bytes) {
    return name.ends_with(".dae") ? fromCollada(bytes) : fromGlb(bytes);
}

} // namespace zl::standins::shed
