#pragma once
#include "standins/region/region_store.h"
#include "standins/stand_in.h"
#include "standins/world/files.h"

#include <optional>

namespace zl::standins::region {

/// A delivered scene as the region takes it: its solids, and who is grouped with whom.
struct DeliveredScene {
    std::string name;
    std::vector<BuiltSolid> solids; ///< in the file's order
    std::map<int, BuiltGroup> groups;
    std::map<std::string, world::Picture> pictures;
    int places = 0; ///< of a region
};

/// Reads the one scene of a folder and refuses as the region would. Nothing where it cannot be shown.
std::optional<DeliveredScene> loadScene(world::Files& files, TryReport& report);

} // namespace zl::standins::region
