#pragma once
#include "core/model/avatar.h"
#include "core/model/model.h"

namespace zl::avatar {

/// The first node of that key; -1 where it is gone, or the key is 0.
int nodeOf(const Model& model, NodeKey key);

/// The node's key; one that no other has is given to it where it has none.
NodeKey keyOf(Model& model, int node);

/// The morph targets that a bind means, as node and index. Where the bind's node is gone or names none, all
/// that are called so.
std::vector<std::pair<int, int>> targetsOf(const Model& model, const Expression::Morph& bind);

/// The bone of a role; -1 where there is none, also for a model without a set-up.
int boneOf(const Model& model, std::string_view role);
/// The same by a set-up that the model does not have yet.
int boneOf(const Model& model, const Avatar& avatar, std::string_view role);

/// Names of morph targets of what is seen that no expression moves, each once.
std::vector<std::string> unusedMorphs(const Model& model, const Avatar& avatar);

} // namespace zl::avatar
