#pragma once
#include "core/geometry/world.h"

namespace zl::geometry {

/// How much of the plan area is covered by faces that look down within the lowest 2 %, for `axis` (0 to 2) as
/// up; from 0 to 1. Nothing, where the mesh has no extent that way: a sheet is not lying only because it is
/// flat. `bounds` are the mesh's.
double footShare(const Mesh& mesh, const Bounds& bounds, int axis);

} // namespace zl::geometry
