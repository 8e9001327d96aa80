#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// Gives the keys of a node's morph weights to the nodes from `first` on too, which show the same targets.
void copyWeightKeys(Model& model, int from, int first);
/// Keys of morph weights mean nothing to a node that shows no mesh: they go.
void dropStrayWeightKeys(Model& model);

} // namespace zl::geometry
