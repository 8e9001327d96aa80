#pragma once
#include "standins/world/shape.h"

#include <map>
#include <string_view>

namespace zl::standins::city {

/// How the city is turned (Z up, front +Y), as the shown world has it (Y up, front +Z).
glm::vec3 shown(const glm::vec3& v);

/// NAME.mesh: one part a picture or colour, in the shown world's axes.
struct MeshFile {
    struct Part {
        world::Shape shape;
        std::string picture;
        glm::vec3 colour{0.8f};
    };
    std::vector<Part> parts;
    std::size_t triangles = 0;
    glm::vec3 low{1e30f}, high{-1e30f};
    std::string problem; ///< why it cannot be read; empty when it could
};
MeshFile readMesh(std::string_view bytes);

/// NAME.pictures, each by name.
struct PicturesFile {
    std::map<std::string, world::Picture> pictures;
    std::string problem;
};
PicturesFile readPictures(std::string_view bytes);

/// One body of a NAME.contact, in the shown world's axes.
struct Body {
    std::string name;
    world::Shape shape;
    std::vector<std::string> kinds; ///< of each face; empty for none
};
struct ContactFile {
    std::string by;
    std::vector<Body> bodies;
    std::string problem;
};
ContactFile readContact(std::string_view text);

/// What the city makes of a kind: a word for a step on it and what flies up. Null for one that it does not
/// know.
struct Kind {
    std::string_view name, sound, throws;
};
const Kind* kindNamed(std::string_view name);

} // namespace zl::standins::city
