#pragma once
#include "core/base/units.h"

#include <glm/glm.hpp>

namespace zl {

/// The turn from our axes (Y up, facing +Z, right-handed) to others with `up` and `front` ("+X", "-Y" …, not
/// along up). Exact: every entry is 0, 1 or -1.
glm::dmat4 worldToAxes(Up up, std::string_view front);

/// What faces the viewer in files that say only which axis is up: +Z when Y is up, -Y when Z is.
std::string_view usualFront(Up up);

/// "+X" as a unit vector; zero for anything that names no axis.
glm::dvec3 axisNamed(std::string_view name);

} // namespace zl
