#pragma once
#include <glm/glm.hpp>

#include <vector>

namespace zl::app {

/// Triangles of a person's outline standing at `foot`, `height` tall, turned to face along `back` (seen from
/// above). All in the scene's unit.
std::vector<glm::vec3> figureOutline(const glm::dvec3& foot, double height, double yaw);

/// Ends of the lines of a floor grid around the origin: `cells` squares of `step` to each side.
std::vector<glm::vec3> floorGrid(double step, int cells);

/// A step of 1, 2 or 5 times a power of ten of `unit`, so that `extent` is some ten of them.
double gridStep(double extent, double unit);

/// The edges of a shape whose two faces meet at more than 30°, or that have one face only; pairs of ends.
std::vector<glm::vec3> sharpEdges(const std::vector<glm::vec3>& positions,
                                  const std::vector<unsigned>& indices,
                                  const glm::mat4& placing = glm::mat4(1.0f));

} // namespace zl::app
