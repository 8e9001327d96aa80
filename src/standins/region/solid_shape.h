#pragma once
#include "standins/region/built_solid.h"
#include "standins/world/shape.h"

namespace zl::standins::region {

/// The faces of a solid about its middle, by number, as docs/formats/solids.md describes them: metres, Y up,
/// with UVs once over each. Nothing for numbers that the description has no body for.
std::map<int, world::Shape> shapesOf(const BuiltSolid& solid);

} // namespace zl::standins::region
