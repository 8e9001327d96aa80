#pragma once
#include "standins/world/shape.h"

#include <array>
#include <map>

namespace zl::standins::wardrobe {

/// A corner's bones with their weights; none where the weight is 0.
struct Hold {
    std::array<int, 4> bone{0, 0, 0, 0};
    std::array<float, 4> weight{0, 0, 0, 0};
};
struct Bone {
    std::string name;
    int above = -1;
    glm::vec3 place{0}; ///< at rest
};
struct OutfitObject {
    std::string name, material;
    world::Shape shape;      ///< in the shown world's axes and the game's units
    std::vector<Hold> holds; ///< one a corner, or none
    std::size_t materials = 0;
    std::size_t mostWeights = 0; ///< that a corner has in the file
    glm::vec3 colour{0.8f};
    std::string pictureBytes; ///< of its colour picture, as in the file
    std::map<std::string, float> settings;
};
/// One size as the game reads it.
struct OutfitFile {
    std::vector<OutfitObject> objects;
    std::vector<Bone> bones;
    std::string problem; ///< why it cannot be read; empty when it could
};

/// A GLB in metres, Y up.
OutfitFile readGlbOutfit(const std::string& bytes);
/// The text mesh, in the game's units, Z up, facing -Y.
OutfitFile readTextOutfit(const std::string& text);

inline constexpr float unitMetres = 0.014f;

} // namespace zl::standins::wardrobe
