#pragma once
#include "standins/world/shape.h"

#include <filesystem>

namespace zl::standins::world {

/// What an OBJ file holds, as stand-ins understand it. Faces must be triangles.
struct ObjFile {
    Shape shape;
    std::size_t objects = 0, materials = 0, triangles = 0;
    std::string materialFile, materialName;
    std::string problem; ///< empty, or why the file cannot be used
};

ObjFile readObjFile(const std::filesystem::path& path);

struct MaterialFile {
    bool found = false;
    glm::vec3 colour{0.8f};
    std::string picture;
};
MaterialFile readMaterialFile(const std::filesystem::path& path, const std::string& material);

} // namespace zl::standins::world
