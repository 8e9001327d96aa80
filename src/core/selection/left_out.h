#pragma once
#include "core/selection/chosen.h"

namespace zl::selection {

/// The model without the chosen triangles. Objects of which nothing is left go, unless something hangs below
/// them, a clip moves them or bones need them. What stays keeps its order, attributes and morph targets; a
/// mesh that other nodes show too stays whole there.
Model leftOut(const Model& model, const Chosen& chosen);

} // namespace zl::selection
