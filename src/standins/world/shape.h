#pragma once
#include <glm/glm.hpp>

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace zl::standins::world {

/// Triangles as a stand-in keeps them, in its platform's units. In the shown world Y is up and +Z faces the
/// viewer.
struct Shape {
    std::vector<glm::vec3> positions, normals;
    std::vector<glm::vec2> uvs; ///< origin top left
    std::vector<std::uint32_t> indices;

    glm::vec3 low() const;
    glm::vec3 high() const;
    /// The middle of mass of an even body inside the surface, by the divergence theorem; that of its box when
    /// it encloses nothing.
    glm::vec3 middleOfMass() const;
    glm::vec3 size() const { return positions.empty() ? glm::vec3(0) : high() - low(); }
};

struct Picture {
    int width = 0, height = 0;
    std::vector<unsigned char> rgba;
};

/// A thing that can be shown, once or many times.
struct Item {
    std::string name;
    Shape shape;
    std::optional<Picture> picture;
    glm::vec3 colour{0.8f}; ///< where it has no picture
    float gloss = 0.15f;
    float glow = 0; ///< 0 to 1: light of its own; with a picture that is what shines
};

/// The box around two corners, twelve triangles.
Shape boxShape(const glm::vec3& low, const glm::vec3& high);

/// Where a ray meets a shape: how far along its way, in the way's lengths, and which face.
struct Met {
    float distance = 0;
    std::size_t face = 0;
};
/// The first, from either side of a face; nothing when it meets none.
std::optional<Met> firstMet(const Shape& shape, const glm::vec3& start, const glm::vec3& way);

/// Every triangle with corners and a normal of its own, for things with hard edges.
void makeFlat(Shape& shape);

/// Positions and normals, each as `turn` gives it: from a platform's axes to the shown world's.
void turnAll(Shape& shape, glm::vec3 (*turn)(const glm::vec3&));

/// Normals by face area where a shape came without.
void addMissingNormals(Shape& shape);

} // namespace zl::standins::world
