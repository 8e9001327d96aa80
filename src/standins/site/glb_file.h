#pragma once
#include "standins/world/shape.h"

namespace zl::standins::site {

/// What the site reads of a GLB: one object, in the file's metres.
struct GlbFile {
    world::Shape shape;
    std::string objectName, materialName;
    std::size_t nodes = 0, meshNodes = 0, materials = 0;
    bool carriesTransform = false;
    glm::vec3 colour{0.8f};
    std::string problem; ///< why it cannot be read; empty when it could
};

GlbFile readGlbFile(const std::string& bytes);

} // namespace zl::standins::site
