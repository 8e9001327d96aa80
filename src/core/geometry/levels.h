#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// How many levels of detail a model has: 1 for one without coarser copies.
int levelCount(const Model& model);

/// The model with the nodes of one level alone, as the level of all; what stood above them stays for its
/// place. A part without a copy at that level is left out.
Model atLevel(const Model& model, int level);

/// The model without its coarser copies.
Model withoutLevels(const Model& model);

} // namespace zl::geometry
