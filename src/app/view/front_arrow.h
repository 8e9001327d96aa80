#pragma once
#include "core/geometry/world.h"

namespace zl::app {

/// The arrow on the floor that says where a model's front points, in metres.
struct FrontArrow {
    glm::dvec3 from, to;

    /// Before what stands within `bounds`; `angle` in radians from +Z towards +X.
    FrontArrow(const geometry::Bounds& bounds, double angle);
    /// Three triangles, just above the floor.
    std::vector<glm::vec3> triangles() const;
};

} // namespace zl::app
