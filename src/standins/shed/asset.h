#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <array>
#include <optional>
#include <set>

namespace zl::standins::shed {

/// A material with its three packed pictures, by what their names end in: base, relief, props.
struct AssetMaterial {
    std::string name;
    std::array<std::optional<world::Picture>, 3> pictures;
};

struct Asset {
    std::string name, sort, credit;
    std::vector<AssetMaterial> materials;
    std::vector<world::Item> items;      ///< one for each surface, in its base picture
    std::vector<std::size_t> materialOf; ///< of each item
    glm::vec3 low{1e30f}, high{-1e30f};
    std::size_t triangles = 0;
    std::vector<std::size_t> levels; ///< triangles of the coarser copies
};

/// Loads a delivered folder and refuses as the railway world does; nothing when it cannot be shown.
std::optional<Asset> loadAsset(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::shed
