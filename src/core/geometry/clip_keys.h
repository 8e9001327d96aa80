#pragma once
#include "core/model/model.h"

#include <functional>
#include <map>

namespace zl::geometry {

/// Lets clips drive `copies` (nodes, by the node they were copied from) as they drive that node, in those
/// channels that `which` takes.
void playAlike(Model& model, const std::map<int, std::vector<int>>& copies,
               const std::function<bool(const Channel&)>& which);

/// Gives the keys of a node's morph weights to the nodes from `first` on too, which show the same targets.
void copyWeightKeys(Model& model, int from, int first);
/// Keys of morph weights mean nothing to a node that shows no mesh: they go.
void dropStrayWeightKeys(Model& model);

} // namespace zl::geometry
