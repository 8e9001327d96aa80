#include "core/geometry/seen.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace zl::geometry {

std::vector<char> seenFrom(const RayScene& rays, const Mesh& mesh, const glm::dvec3& eye,
                           const std::vector<std::uint32_t>& triangles) {
    std::vector<char> seen(triangles.size(), 0);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, triangles.size(), 512), [&](const auto& range) {
        for (std::size_t i = range.begin(); i != range.end(); ++i) {
            const std::uint32_t* corner = &mesh.indices[3 * std::size_t(triangles[i])];
            const glm::vec3 middle =
                (mesh.positions[corner[0]] + mesh.positions[corner[1]] + mesh.positions[corner[2]]) / 3.0f;
            // Up to just before the triangle itself, which may lie on another.
            seen[i] = !rays.blocked(glm::vec3(eye), middle - glm::vec3(eye), 0, 0.9995f);
        }
    });
    return seen;
}

} // namespace zl::geometry
