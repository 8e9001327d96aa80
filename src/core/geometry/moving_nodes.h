#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// Which nodes a clip moves or a skin hangs on: their own transforms mean something to others.
std::vector<char> movingNodes(const Model& model);

/// For each node the nearest moving one at or above it, or -1.
std::vector<int> moverOf(const Model& model, const std::vector<char>& moving);

} // namespace zl::geometry
