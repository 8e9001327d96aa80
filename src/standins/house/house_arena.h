#pragma once
#include "standins/stand_in.h"

namespace zl::standins::house {

/// The row house of Thistledown Row: loads a delivered package beside those in `neighbours`, with one table
/// of numbers for all of them as the game has it.
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::house
