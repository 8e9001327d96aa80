#include "core/uv/uv_faces.h"

#include "core/geometry/world.h"
#include "core/model/finite.h"

#include <cmath>

namespace zl::uv {

namespace {

/// Where each material's pictures lie; the last entry is for triangles without one.
std::vector<PictureUse> leadingUses(const Model& model) {
    std::vector<PictureUse> uses(model.materials.size() + 1);
    for (std::size_t m = 0; m < model.materials.size(); ++m)
        if (const PictureUse* use = model.materials[m].leading()) uses[m] = *use;
    return uses;
}

} // namespace

UvFaces uvFaces(const Model& model) {
    const auto uses = leadingUses(model);
    UvFaces out;
    out.faces.reserve(triangleCount(model));
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        const auto materials = triangleMaterials(mesh);
        const std::size_t bareBefore = out.bare;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            const int material = materials[t];
            const PictureUse& use = uses[material >= 0 ? std::size_t(material) : uses.size() - 1];
            if (std::size_t(use.uvSet) >= mesh.uvSets.size()) {
                ++out.bare;
                continue;
            }
            UvFace face{.node = node, .triangle = std::uint32_t(t), .material = material};
            glm::dvec3 p[3];
            bool numbers = true;
            for (std::size_t k = 0; k < 3; ++k) {
                const std::uint32_t v = mesh.indices[3 * t + k];
                face.at[k] = use.placement.of(mesh.uvSets[std::size_t(use.uvSet)][v]);
                numbers = numbers && isFinite(face.at[k]);
                p[k] = glm::dvec3(toWorld * glm::dvec4(mesh.positions[v], 1));
            }
            const double area = 0.5 * glm::length(glm::cross(p[1] - p[0], p[2] - p[0]));
            face.area = std::isfinite(area) ? float(area) : 0.0f;
            if (numbers)
                out.faces.push_back(face);
            else
                ++out.bare;
        }
        if (out.bare > bareBefore) out.bareNodes.push_back(node);
    });
    return out;
}

glm::ivec2 leadingPixels(const Model& model, int material) {
    if (material < 0) return glm::ivec2(0);
    const PictureUse* use = model.materials[std::size_t(material)].leading();
    if (!use) return glm::ivec2(0);
    const Image& image = *model.images[std::size_t(use->image)];
    return {image.width, image.height};
}

} // namespace zl::uv
