#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

namespace zl::standins::dressing {

/// A material of a thing: what its owner may put another picture on.
struct Face {
    std::string name, pictureFile;
    std::optional<world::Picture> picture;
    std::size_t triangles = 0;
    glm::vec2 low{1e30f}, high{-1e30f}; ///< of its UVs
    glm::vec3 colour{0.8f};

    /// Whether a picture put on it is shown once and whole at most.
    bool isInside() const { return low.x >= -0.01f && low.y >= -0.01f && high.x <= 1.01f && high.y <= 1.01f; }
};

struct Thing {
    std::string name, credit;
    bool lendable = false;
    std::vector<Face> faces;
    std::vector<world::Shape> shapes; ///< metres
    std::vector<std::size_t> faceOf;  ///< of each shape
    glm::vec3 low{1e30f}, high{-1e30f};
};

inline constexpr int mostEdge = 1024;

/// Loads a delivered folder and refuses as the shared world does; nothing when it cannot be shown.
std::optional<Thing> loadThing(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::dressing
