#pragma once
#include "standins/world/arena.h"

namespace zl::standins::tunnel {

/// The engine's test map. See StandIn.
TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::tunnel
