#pragma once
#include "core/model/model.h"

#include <map>

namespace zl {

/// Where a node stands, in words that hold when the model is read or worked out anew: the names from the top
/// down to it with '/' between; the second node of a name below one parent is "name#2". A backslash stands
/// before '/', '#' and '\' that belong to a name.
using NodePath = std::string;

/// The paths of all nodes. Linear in their length together.
std::vector<NodePath> nodePaths(const Model& model);

/// The nodes by path, for looking up many.
std::map<NodePath, int, std::less<>> nodesByPath(const Model& model);

} // namespace zl
