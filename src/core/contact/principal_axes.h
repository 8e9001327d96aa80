#pragma once
#include <glm/glm.hpp>

#include <array>
#include <optional>
#include <span>

namespace zl::contact {

/// The axes along which points spread least, more and most: of length 1, square on one another, right-handed
/// (eigenvectors of the covariance). Empty where there are no points or no numbers.
std::optional<std::array<glm::dvec3, 3>> principalAxes(std::span<const glm::vec3> points);

} // namespace zl::contact
