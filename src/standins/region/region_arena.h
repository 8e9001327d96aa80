#pragma once
#include "standins/region/scene_text.h"

namespace zl::standins::region {

/// Whether a delivered folder holds a scene of solids.
bool holdsScene(const std::filesystem::path& folder);

/// One build or several, one seen at a time: hovering, or set down to walk about in.
std::unique_ptr<world::Arena> arenaOf(std::vector<DeliveredScene> builds, std::string note);

TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::region
