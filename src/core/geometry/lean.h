#pragma once
#include "core/model/mesh.h"

#include <optional>

namespace zl::geometry {

/// How far a solid standing on its lowest face can be leant before it falls, in radians: the angle at its
/// centre of mass (of an even body, by the divergence theorem) between straight down and the nearest edge of
/// what it stands on, the convex outline of its corners within a hundredth of its height from the bottom.
/// Less than nothing when it falls by itself; none for a mesh that encloses nothing.
std::optional<double> leanBeforeFall(const Mesh& solid, const glm::dmat4& placement = glm::dmat4(1.0));

} // namespace zl::geometry
