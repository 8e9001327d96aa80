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
    return withVertices(plain, keep, std::move(indices), materials);
}

} // namespace zl::geometry
