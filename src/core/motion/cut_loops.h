#pragma once
#include "core/model/mesh.h"

#include <vector>

namespace zl::motion {

/// A border along which one group of triangles was cut from others: corners of the mesh in order, as the
/// group's own triangles run along it (the group to the left, seen from outside), the last leading to the
/// first. `beyond` holds an entry a corner: the group on the other side of the edge that begins there.
struct CutLoop {
    int group = -1;
    std::vector<std::uint32_t> corners;
    std::vector<int> beyond;
    Wear wear{}; ///< of a triangle along it
};

/// All borders between triangles of different groups, closed ones only. `groups` holds an entry a triangle.
/// Corners at one place count as one. Takes about the number of triangles times its logarithm.
std::vector<CutLoop> cutLoops(const Mesh& mesh, const std::vector<int>& groups);

} // namespace zl::motion
