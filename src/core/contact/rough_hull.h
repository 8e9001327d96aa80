#pragma once
#include <glm/glm.hpp>

#include <cstddef>
#include <span>

namespace zl::contact {

/// Most points that roughHullVolume() takes.
inline constexpr std::size_t mostRoughPoints = 64;

/// The volume of the hull of a few points, tens of times sooner than convexHull() makes one: points are added
/// one after another (the incremental method), in plain double precision, so that points that nearly lie in
/// one plane may leave it a little off. For comparing, not for making anything. 0 for points in a plane.
double roughHullVolume(std::span<const glm::vec3> points);

} // namespace zl::contact
