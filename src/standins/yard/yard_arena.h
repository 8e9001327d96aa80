#pragma once
#include "standins/world/arena.h"

namespace zl::standins::yard {

/// Mudhaul's yard: a gate 25 dm wide, an arrow where trucks drive off to, and a look at every node.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::yard
