#pragma once
#include <glm/glm.hpp>

#include <optional>

namespace zl::planner {

/// The factor nearest to 1, between three quarters and four thirds, by which all three sides (in blocks,
/// above 0) become whole numbers of blocks to within a share of themselves; none where there is no such
/// factor.
std::optional<double> factorToWhole(const glm::dvec3& sides, double within);

/// Factors for the three sides (in blocks, above 0) that make each exactly whole and change proportions and
/// size least, both as logarithms added up. None where a side is no length.
std::optional<glm::dvec3> stretchToWhole(const glm::dvec3& sides);

/// Whether no side becomes more than an eighth longer in proportion to another: beyond that it is another
/// shape, which only a person can want.
bool keepsShape(const glm::dvec3& stretch);

} // namespace zl::planner
