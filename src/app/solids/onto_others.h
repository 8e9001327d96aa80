#pragma once
#include "core/geometry/world.h"

#include <array>
#include <span>
#include <vector>

namespace zl::app {

/// Where something that is moved comes to lie on others: along each axis that it may move along (`free`), the
/// nearest place within `reach` where one of its ends meets an end of another, or their middles lie level.
/// Of all that are as near, the first.
struct OntoOthers {
    glm::dvec3 by{0};                     ///< the move, with what was missing added
    std::array<int, 3> other{-1, -1, -1}; ///< along each axis the one that it lies on now; -1 for none
    std::array<double, 3> at{};           ///< and where
};
OntoOthers ontoOthers(const geometry::Bounds& moved, std::span<const geometry::Bounds> others,
                      const glm::dvec3& by, const glm::bvec3& free, double reach);

} // namespace zl::app
