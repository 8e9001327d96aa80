#include "core/texture/corners_worn.h"

#include "core/model/finite.h"

namespace zl::texture {

namespace {

constexpr double pictureDots = 1024;

} // namespace

CornersWorn::CornersWorn(const Mesh& mesh, const Model& model, int material, WornLooks& looks) : mesh_(mesh) {
    if (material < 0) return;
    auto found = looks.find(material);
    if (found == looks.end()) {
        found = looks.try_emplace(material, model.materials[std::size_t(material)], model).first;
        found->second.decode({pictureDots, pictureDots});
    }
    look_ = &found->second;
    if (const PictureUse* use = look_->leading(); use && std::size_t(use->uvSet) < mesh.uvSets.size())
        uvs_ = &mesh.uvSets[std::size_t(use->uvSet)], place_ = use->placement;
}

glm::vec4 CornersWorn::at(const std::uint32_t* corners, const glm::dvec3& weight) const {
    glm::vec2 uv(0);
    if (uvs_)
        for (int k = 0; k < 3; ++k) uv += float(weight[k]) * place_.of((*uvs_)[corners[k]]);
    glm::vec4 out = look_ ? look_->colour(isFinite(uv) ? uv : glm::vec2(0)) : glm::vec4(1);
    if (!mesh_.colours.empty()) {
        glm::vec4 mixed(0);
        for (int k = 0; k < 3; ++k) mixed += float(weight[k]) * mesh_.colours[corners[k]];
        out *= mixed;
    }
    return out;
}

} // namespace zl::texture
