#include "core/contact/body_mesh.h"

#include "core/geometry/world.h"

namespace zl::contact {

Mesh bodyMesh(const Model& model, const selection::Chosen* chosen) {
    Mesh out;
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        std::vector<std::uint32_t> number(mesh.vertexCount(), ~0u);
        const bool turned = glm::determinant(glm::dmat3(toWorld)) < 0;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            if (chosen && !chosen->has(std::size_t(node), t)) continue;
            for (std::size_t k = 0; k < 3; ++k) {
                const std::uint32_t v = mesh.indices[3 * t + (turned ? 2 - k : k)];
                if (number[v] == ~0u) {
                    number[v] = std::uint32_t(out.positions.size());
                    out.positions.emplace_back(toWorld * glm::dvec4(mesh.positions[v], 1));
                }
                out.indices.push_back(number[v]);
            }
            if (!mesh.surfaces.empty()) {
                out.surfaces.resize(out.triangleCount(), -1);
                out.surfaces.back() = mesh.surfaces[t];
            }
        }
    });
    if (!out.surfaces.empty()) out.surfaces.resize(out.triangleCount(), -1);
    out.runs = {{0, std::uint32_t(out.triangleCount()), -1}};
    return out;
}

} // namespace zl::contact
