#pragma once
#include "standins/world/shape.h"

namespace zl::standins::shed {

/// What wears one material, in metres, Y up and facing +Z.
struct MeshSurface {
    std::string node, material; ///< no material: empty
    world::Shape shape;
};

struct AssetMesh {
    std::vector<MeshSurface> surfaces;
    std::size_t triangles = 0;
    glm::vec3 low{1e30f}, high{-1e30f};
    std::string problem; ///< why it cannot be read; empty when it could

    /// Takes in what shows anything.
    void add(MeshSurface surface);
};

/// A mesh of the railway world: GLB, or COLLADA where the name ends in ".dae".
AssetMesh readAssetMesh(const std::string& name, const std::string& bytes);

} // namespace zl::standins::shed
