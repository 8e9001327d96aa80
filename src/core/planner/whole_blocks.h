#pragma once
#include <glm/glm.hpp>

#include <optional>

namespace zl::planner {

/// The factor nearest to 1, between a half and 2, by which all three sides (in blocks, above 0) become whole
/// numbers of blocks to within a share of themselves; none where there is no such factor.
std::optional<double> factorToWhole(const glm::dvec3& sides, double within);

/// Factors for the three sides (in blocks, above 0) that make each exactly whole and change the proportions
/// least, of all sizes near the present one (a ninth smaller or larger). None where a side would
/// become more than an eighth longer or shorter in proportion to another, which would be another shape.
std::optional<glm::dvec3> stretchToWhole(const glm::dvec3& sides);

} // namespace zl::planner
