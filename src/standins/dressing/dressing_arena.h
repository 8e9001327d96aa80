#pragma once
#include "standins/stand_in.h"

namespace zl::standins::dressing {

TryReport tryFolder(const std::filesystem::path& folder);
/// A scene of solids is taken by the region, anything else by the dressing room.
std::string_view nameFor(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::dressing
