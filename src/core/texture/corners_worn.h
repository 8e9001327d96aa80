#pragma once
#include "core/texture/worn_look.h"

namespace zl::texture {

/// The looks of a model's materials, each decoded once, by the numbers that meshes have for them.
using WornLooks = std::map<int, WornLook>;

/// Looks up what one run of a mesh's triangles wears between its corners: its material with pictures, times
/// the colours of corners. Mesh, model and looks must outlive it.
class CornersWorn {
public:
    CornersWorn(const Mesh& mesh, const Model& model, int material, WornLooks& looks);
    /// Linear light, and alpha, at a place of a triangle: the weights of its three corners.
    glm::vec4 at(const std::uint32_t* corners, const glm::dvec3& weight) const;

private:
    const Mesh& mesh_;
    const WornLook* look_ = nullptr;
    const std::vector<glm::vec2>* uvs_ = nullptr;
    UvPlacement place_;
};

} // namespace zl::texture
