#pragma once
#include "core/model/model.h"

namespace zl {

/// The model without materials that no triangle wears and pictures that no material shows, so that files do
/// not carry them. What stays keeps its order.
Model withUsedMaterialsOnly(Model model);

/// The model with each material's name once, for files in which a name is all that tells them apart: the
/// second of a name becomes "name-2".
Model withMaterialNamesOnce(Model model);

} // namespace zl
