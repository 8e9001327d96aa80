#pragma once
#include <glm/glm.hpp>

#include <vector>

namespace zl::geometry {

/// Convex outline of points in a plane, counter-clockwise, without points on straight edges
/// (Andrew's monotone chain, 1979). Fewer than three points when they lie on a line.
std::vector<glm::dvec2> convexOutline(std::vector<glm::dvec2> points);

/// Area centroid of a convex outline; the mean of the points when it has no area.
glm::dvec2 middleOf(const std::vector<glm::dvec2>& outline);

struct Circle {
    glm::dvec2 centre{0.0};
    double radius = 0;
};
/// Smallest circle around the points (Welzl 1991, as the iterative move-to-front method).
Circle smallestCircle(const std::vector<glm::dvec2>& points);

} // namespace zl::geometry
