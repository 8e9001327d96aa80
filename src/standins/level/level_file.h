#pragma once
#include "standins/world/files.h"

namespace zl::standins::level {

/// An object as the level compiler reads it, in its own axes (Z up, front +X) and units: the importer has
/// multiplied by 40 already.
struct LevelObject {
    std::string name;
    world::Shape shape;
    std::vector<std::string> materials; ///< used, in order
    std::size_t triangles() const { return shape.indices.size() / 3; }
};
struct LevelMaterial {
    std::string name, picture;
    glm::vec3 colour{0.8f};
};
struct LevelFile {
    std::vector<LevelObject> objects;
    std::vector<LevelMaterial> materials;
    float unit = 1;      ///< metres that the file's numbers are in
    std::string problem; ///< why it cannot be read, with its line; empty when it could
};

inline constexpr float importerMultiplies = 40;

LevelFile readLevelFile(const std::string& text);

} // namespace zl::standins::level
