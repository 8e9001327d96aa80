#pragma once
#include "core/model/mesh.h"

#include <vector>

namespace zl::geometry {

/// A loose part that looks like a wheel standing upright.
struct Wheel {
    glm::dvec3 centre;
    double diameter = 0;
    glm::dvec2 axle; ///< unit direction seen from above, as (x, z), with x > 0, or x = 0 and z = 1
};

/// Loose parts that look like wheels, in the mesh's space with Y up: as high as long, thinner than that along
/// a level axle of any direction, and with their corners near the rim of a circle rather than all over a
/// square. The axle is the direction in which the corners, seen from above, spread least; within a tenth of a
/// degree of X or Z it is that axis.
std::vector<Wheel> wheelsIn(const Mesh& mesh);

} // namespace zl::geometry
