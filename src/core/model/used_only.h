#pragma once
#include "core/model/model.h"

namespace zl {

/// The model without materials that no triangle wears and pictures that no material shows, so that files do
/// not carry them. What stays keeps its order.
Model withUsedMaterialsOnly(Model model);

} // namespace zl
