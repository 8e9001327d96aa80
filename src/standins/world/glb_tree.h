#pragma once
#include "standins/world/glb_data.h"
#include "standins/world/shape.h"

namespace zl::standins::world {

/// What one node shows in one material, in the whole's own space.
struct GlbSurface {
    Shape shape;
    int material = -1;
};

struct GlbNode {
    std::string name;
    int above = -1;
    glm::mat4 local{1.0f}, place{1.0f}; ///< under the node above, and in the whole
    std::vector<GlbSurface> surfaces;
    std::size_t triangles = 0;
};

/// A GLB as most games read it: metres, Y up, facing +Z.
struct GlbTree {
    std::vector<GlbNode> nodes; ///< what is above comes first
    std::vector<GlbData::Look> materials;
    std::string problem; ///< why it cannot be read; empty when it could
};

GlbTree readGlbTree(const std::string& bytes);

} // namespace zl::standins::world
