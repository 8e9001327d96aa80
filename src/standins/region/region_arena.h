#pragma once
#include "standins/stand_in.h"

namespace zl::standins::region {

/// Whether a delivered folder holds a scene of solids.
bool holdsScene(const std::filesystem::path& folder);

TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::region
