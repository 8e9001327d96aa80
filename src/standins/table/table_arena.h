#pragma once
#include "standins/world/arena.h"

namespace zl::standins::table {

/// The table, live: figures that can be picked up, dropped, stacked and stood base to base.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::table
