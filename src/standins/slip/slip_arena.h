#pragma once
#include "standins/world/arena.h"

namespace zl::standins::slip {

/// The yard's slip, with the water at its end. See StandIn.
TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::slip
