#include "core/geometry/extract.h"

namespace zl::geometry {

Mesh extracted(const Mesh& mesh, const std::vector<int>& materials,
               const std::function<bool(std::size_t)>& wanted) {
    constexpr std::uint32_t nowhere = ~0u;
    std::vector<std::uint32_t> indices, keep, newIndex(mesh.vertexCount(), nowhere);
    std::vector<int> kept;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        if (!wanted(t)) continue;
        kept.push_back(materials[t]);
        for (int k = 0; k < 3; ++k) {
            const std::uint32_t old = mesh.indices[3 * t + k];
            if (newIndex[old] == nowhere) {
                newIndex[old] = static_cast<std::uint32_t>(keep.size());
                keep.push_back(old);
            }
            indices.push_back(newIndex[old]);
        }
    }
    return withVertices(mesh, keep, std::move(indices), kept);
}

} // namespace zl::geometry
