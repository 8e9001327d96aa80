#pragma once
#include "standins/world/arena.h"

namespace zl::standins::field {

/// The block field. See StandIn.
TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::field
