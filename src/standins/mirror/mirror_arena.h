#pragma once
#include "standins/stand_in.h"

namespace zl::standins::mirror {

/// The mirror: one avatar that looks back, makes faces, blinks, talks and swings.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::mirror
