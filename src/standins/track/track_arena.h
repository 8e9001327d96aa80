#pragma once
#include "standins/stand_in.h"

namespace zl::standins::track {

TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::track
