#pragma once
#include "standins/world/shape.h"

namespace zl::standins::world {

/// A part as stand-ins read it, in the file's own numbers and axes.
struct ColladaPart {
    std::string name, picture;
    Shape shape;
    /// Runs of its indices, each in one material, by the name that it has in the file; empty for none.
    struct Worn {
        std::size_t first, count;
        std::string material;
    };
    std::vector<Worn> worn;
    glm::vec3 colour{0.8f};
    glm::mat4 place{1.0f}; ///< of its node; its shape's numbers are without
};
struct ColladaFile {
    double unitMetres = 1;
    std::string upAxis = "Y_UP";
    std::vector<ColladaPart> parts;
    std::vector<std::string> transformed; ///< nodes that carry a transform other than none
    std::vector<std::string> empty;       ///< nodes without a shape
    std::string problem;                  ///< why it cannot be read; empty when it could
};

ColladaFile readColladaFile(const std::string& text);

} // namespace zl::standins::world
