#pragma once
#include "standins/stand_in.h"
#include "standins/wardrobe/outfit_file.h"

#include <optional>

namespace zl::standins::wardrobe {

/// An outfit that can be worn: the same objects slim and broad, which the game blends.
struct Outfit {
    std::string name, credit;
    OutfitFile slim, broad;
    std::vector<std::optional<world::Picture>> pictures; ///< by object

    /// What a blend looks like: 0 is slim, 1 broad. The bones turned about the shown world's X by `turns`.
    world::Shape object(std::size_t which, float blend, const std::vector<float>& turns) const;
    glm::vec3 bonePlace(std::size_t bone, float blend) const;
};

namespace limits {
constexpr std::size_t triangles = 12000, objects = 8, bones = 60, weights = 4;
constexpr int pictureEdge = 2048;
} // namespace limits

/// Loads a delivered folder and refuses as the game does; nothing when it cannot be worn.
std::optional<Outfit> loadOutfit(const std::filesystem::path& folder, TryReport& report);

TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::wardrobe
