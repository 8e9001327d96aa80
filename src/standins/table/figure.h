#pragma once
#include "standins/stand_in.h"

#include <glm/glm.hpp>

#include <optional>

namespace zl::standins::table {

/// Triangles as the table keeps them, in table units.
struct Shape {
    std::vector<glm::vec3> positions, normals;
    std::vector<glm::vec2> uvs; ///< origin bottom left, as in the file
    std::vector<std::uint32_t> indices;

    glm::vec3 low() const;
    glm::vec3 high() const;
};

struct Picture {
    int width = 0, height = 0;
    std::vector<unsigned char> rgba;
};

/// A figure as the table loaded it.
struct Figure {
    std::string name;
    std::string finish;
    std::string credit;
    Shape model;
    std::optional<Shape> collider;
    std::optional<Picture> picture;
    glm::vec3 colour{0.8f}; ///< of the material where it has no picture
    std::size_t bytes = 0;
    std::size_t files = 0;
};

/// The table's limits. They are stated here a second time on purpose: a game does not ask the product.
namespace limits {
inline constexpr std::size_t triangles = 40000, colliderTriangles = 255, objects = 1, materials = 1;
inline constexpr int pictureEdge = 2048;
inline constexpr double bytes = 12e6, leastHeight = 0.9, mostHeight = 2.4, floorGap = 0.01, bottomGap = 0.01;
} // namespace limits

/// Reads the delivered files of one folder with the table's own reader and judges them. `report.accepted` is
/// false, and nothing is returned, when any message refuses.
std::optional<Figure> loadFigure(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::table
