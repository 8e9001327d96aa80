#include "core/geometry/light_mesh.h"

#include <meshoptimizer.h>

#include <cfloat>

namespace zl::geometry {

Mesh lightMesh(const Mesh& mesh, std::size_t triangles) {
    if (mesh.triangleCount() <= triangles) return mesh;
    std::vector<std::uint32_t> indices;
    std::vector<int> materials;
    for (const MaterialRun& run : mesh.runs) {
        const std::size_t count = 3 * std::size_t(run.triangleCount);
        if (count == 0) continue;
        const std::size_t wanted =
            std::max<std::size_t>(12, triangles * run.triangleCount / mesh.triangleCount());
        std::vector<std::uint32_t> kept(count);
        kept.resize(meshopt_simplifySloppy(kept.data(), &mesh.indices[3 * std::size_t(run.firstTriangle)],
                                           count, &mesh.positions[0].x, mesh.positions.size(),
                                           sizeof(glm::vec3), wanted * 3, FLT_MAX, nullptr));
        indices.insert(indices.end(), kept.begin(), kept.end());
        materials.resize(indices.size() / 3, run.material);
    }
    Mesh plain;
    plain.positions = mesh.positions;
    plain.uvSets.assign(mesh.uvSets.begin(),
                        mesh.uvSets.begin() + std::min<std::size_t>(1, mesh.uvSets.size()));
    std::vector<std::uint32_t> keep, newIndex(mesh.positions.size(), ~0u);
    for (std::uint32_t& i : indices) {
        if (newIndex[i] == ~0u) {
            newIndex[i] = static_cast<std::uint32_t>(keep.size());
            keep.push_back(i);
        }
        i = newIndex[i];
    }
    return withVertices(plain, keep, std::move(indices), wearOf(materials));
}

std::vector<std::uint32_t> lightIndices(std::span<const glm::vec3> positions,
                                        std::span<const std::uint32_t> indices, std::size_t triangles) {
    std::vector<std::uint32_t> out(indices.begin(), indices.end());
    if (indices.size() / 3 <= triangles || positions.empty()) return out;
    const std::size_t wanted = 3 * std::max<std::size_t>(triangles, 4);
    std::size_t count = meshopt_simplify(out.data(), indices.data(), indices.size(), &positions[0].x,
                                         positions.size(), sizeof(glm::vec3), wanted, 0.2f, 0, nullptr);
    if (count > wanted * 3 / 2)
        count = meshopt_simplifySloppy(out.data(), indices.data(), indices.size(), &positions[0].x,
                                       positions.size(), sizeof(glm::vec3), wanted, FLT_MAX, nullptr);
    out.resize(count);
    return out;
}

} // namespace zl::geometry
