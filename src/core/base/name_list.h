#pragma once
#include <string>
#include <vector>

namespace zl {

/// The first dozen of a list of names, separated by commas, and how many more there are.
std::string showNames(const std::vector<std::string>& names);

} // namespace zl
