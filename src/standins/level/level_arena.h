#pragma once
#include "standins/world/arena.h"

namespace zl::standins::level {

/// Lampwright's level compiler and a room of its own: multiplies by 40, checks names, corners and pictures.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::level
