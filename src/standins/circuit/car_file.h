#pragma once
#include "standins/world/shape.h"

#include <map>

namespace zl::standins::circuit {

struct CarMaterial {
    std::string name;
    glm::vec3 colour{0.8f};
    std::string picture; ///< as the file names it; empty for none
};

/// What one node shows in one material, in the car's own space.
struct CarSurface {
    world::Shape shape;
    int material = -1;
};

struct CarNode {
    std::string name;
    int above = -1;
    glm::mat4 local{1.0f}, place{1.0f}; ///< under the node above, and in the car
    std::vector<CarSurface> surfaces;
    std::size_t triangles = 0;
};

/// A car's GLB as the game reads it: metres, Y up, driving to +Z; pictures lie beside it.
struct CarFile {
    std::vector<CarNode> nodes; ///< what is above comes first
    std::vector<CarMaterial> materials;
    std::string problem; ///< why it cannot be read; empty when it could
};

CarFile readCarFile(const std::string& bytes);

/// The settings of materials by name, out of the TOML file beside the car. What is no number is left out;
/// `problem`, when given, receives why it cannot be read.
std::map<std::string, std::map<std::string, float>> readCarSettings(const std::string& text,
                                                                    std::string& problem);

} // namespace zl::standins::circuit
