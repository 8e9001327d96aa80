#pragma once
#include "standins/world/shape.h"

namespace zl::standins::yard {

/// A part of a truck as the yard reads it, in the file's own numbers and axes.
struct TruckPart {
    std::string name, picture;
    world::Shape shape;
    glm::vec3 colour{0.8f};
};
struct ColladaFile {
    double unitMetres = 1;
    std::string upAxis = "Y_UP";
    std::vector<TruckPart> parts;
    std::vector<std::string> transformed; ///< nodes that carry a transform other than none
    std::vector<std::string> empty;       ///< nodes without a shape
    std::string problem;                  ///< why it cannot be read; empty when it could
};

ColladaFile readColladaFile(const std::string& text);

} // namespace zl::standins::yard
