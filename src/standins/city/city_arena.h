#pragma once
#include "standins/world/arena.h"

namespace zl::standins::city {

/// Four blocks of a harbour city. See StandIn.
TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::city
