#pragma once
#include "core/model/model.h"

namespace zl {

/// Puts all of `other` into `model`: below the node `parent` (-1 for none), with `place` taking it from its
/// own world to that node's space, or to the world. Its nodes are called "NAME/own name"; equal pictures are
/// shared. Clips stay behind. Comes back with the index of the first of its nodes.
int addModel(Model& model, const Model& other, const std::string& name, int parent, const glm::dmat4& place);

} // namespace zl
