#pragma once
#include "core/model/mesh.h"

#include <optional>
#include <span>

namespace zl::contact {

/// The smallest convex body around `points` as triangles that face outward, each corner once (Quickhull:
/// Barber, Dobkin, Huhdanpaa 1996; qhull). Corners are among the points to the last bit, so it is convex in
/// single floats too. With `mostCorners` (4 at least) the corners that span most are taken, one after
/// another, always that which stands out farthest of what there is. Empty for points that lie in a plane.
std::optional<Mesh> convexHull(std::span<const glm::vec3> points, std::size_t mostCorners = 0);

/// How far a point stands out of a convex body, by the face that it is farthest in front of; below 0 inside.
double outsideOf(const Mesh& hull, const glm::dvec3& point);

} // namespace zl::contact
