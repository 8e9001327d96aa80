#include "core/geometry/foot_share.h"

#include "core/geometry/normals.h"

#include <algorithm>
#include <cmath>

namespace zl::geometry {

double footShare(const Mesh& mesh, const Bounds& bounds, int axis) {
    const glm::dvec3 size = bounds.size();
    const double plan = size[(axis + 1) % 3] * size[(axis + 2) % 3];
    if (!(plan > 0) || size[axis] < 1e-4 * std::max({size.x, size.y, size.z})) return 0;
    const double top = bounds.min[axis] + 0.02 * size[axis];
    double area = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const std::uint32_t* c = &mesh.indices[3 * t];
        if (mesh.positions[c[0]][axis] > top || mesh.positions[c[1]][axis] > top ||
            mesh.positions[c[2]][axis] > top)
            continue;
        const glm::vec3 n = faceNormal(mesh, t);
        if (std::abs(n[axis]) > 0.9f * glm::length(n))
            area += 0.5 * std::abs(n[axis]); // winding may be wrong in raw files
    }
    return std::min(1.0, area / plan);
}

} // namespace zl::geometry
