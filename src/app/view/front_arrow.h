#pragma once
#include "app/view/tools/handle_tool.h"

#include "core/geometry/world.h"

namespace zl::app {

/// The arrow on the floor that says where a model's front points, in metres.
struct FrontArrow {
    glm::dvec3 from, to;

    /// Before what stands within `bounds`; `angle` in radians from +Z towards +X.
    FrontArrow(const geometry::Bounds& bounds, double angle);
    /// To turn it by its tip, around what stands within `bounds`; what it says is done when it is let go.
    Handle handle(const geometry::Bounds& bounds) const;
    /// Three triangles, just above the floor.
    std::vector<glm::vec3> triangles() const;
};

} // namespace zl::app
