#pragma once
#include "standins/world/arena.h"

namespace zl::standins::site {

/// Playmeadow's upload page and a meadow: a queue, a check that takes its time, refusals, pictures to be
/// linked.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::site
