#pragma once
#include "core/geometry/flat_outline.h"
#include "core/geometry/world.h"

namespace zl::geometry {

/// What a model stands on: the outline of its lowest slice seen from above.
struct Foot {
    std::vector<glm::dvec2> outline; ///< convex, in metres as (x, z); empty when there are no triangles
    double bottom = 0;               ///< lowest y, metres
    double sliceHeight = 0;          ///< how much of the height was looked at, metres
    glm::dvec2 middle{0.0};          ///< area centroid of the outline
    Bounds bounds;                   ///< of the slice

    bool empty() const { return outline.empty(); }
    double width() const { return bounds.size().x; }
    double depth() const { return bounds.size().z; }
};

/// Slices the lowest `share` of the model's height, cutting triangles at the slice's top.
Foot footOf(const Model& model, double share = 0.02);

} // namespace zl::geometry
