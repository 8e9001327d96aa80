#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace zl::standins::slip {

/// A vehicle as the yard holds it: X across, Y up, Z ahead, cells from 0, in blocks.
struct Hull {
    enum class Form { None, Whole, Half, Third, TwoThirds };
    struct Cell {
        Form form = Form::None;
        std::uint8_t turn = 0; ///< of the 24: six ways for what was up, four for what was ahead
        std::uint8_t paint = 0;
        int piece = -1; ///< which it hangs with, the largest first
    };
    std::string name;
    glm::ivec3 size{0};
    std::vector<Cell> cells;         ///< X first, then Y, then Z
    std::vector<glm::vec3> paints;   ///< sRGB, 0 to 1
    std::vector<std::size_t> pieces; ///< blocks of each

    const Cell* at(glm::ivec3 cell) const;
    std::size_t number(glm::ivec3 cell) const {
        return std::size_t(cell.x) + std::size_t(size.x) * std::size_t(cell.y + size.y * cell.z);
    }
    glm::ivec3 cellOf(std::size_t number) const;
    /// Of a cell; from the middle column, the bottom and the middle of the length.
    glm::dvec3 middleOf(std::size_t number) const;
    std::size_t count() const;
    double volumeOf(std::size_t number) const; ///< of a cube
};

/// The one hull in a folder, as the yard judges it; nothing where it cannot be shown. Messages say what was
/// found; any that refuses keeps it off the slip.
std::optional<Hull> readHull(const std::filesystem::path& folder, TryReport& report);

/// What is seen of the blocks of one paint, hanging with the largest piece or (`strays`) not: one shape.
world::Shape shapeOf(const Hull& hull, std::size_t paint, bool strays);

} // namespace zl::standins::slip
