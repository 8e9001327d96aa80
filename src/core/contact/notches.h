#pragma once
#include <glm/glm.hpp>

#include <cstdint>
#include <span>
#include <vector>

namespace zl::contact {

/// A plane that goes on from a face past an edge where the surface folds inward. Cutting there takes the fold
/// away (Chazelle, Convex Partitions of Polyhedra, 1984).
struct NotchPlane {
    glm::dvec3 normal{1, 0, 0};
    double at = 0;     ///< the points p with dot(normal, p) = at
    double folded = 0; ///< how long the folds in it are together
};

inline constexpr std::size_t mostNotches = 400, mostFacePlanes = 64;

struct Notches {
    std::size_t folds = 0; ///< counted to one above `mostNotches`
    /// Those that take most folds away first; where there are none, and not many, those of all faces, which
    /// part what does not hang together.
    std::vector<NotchPlane> planes;
};

/// Of a surface of about size 1, three indices a face, its front outward. No planes where there are too many
/// folds: it is round there.
Notches notchesOf(std::span<const glm::vec3> points, std::span<const std::uint32_t> indices);

} // namespace zl::contact
