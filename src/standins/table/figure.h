#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

namespace zl::standins::table {

using world::Picture;
using world::Shape;

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
