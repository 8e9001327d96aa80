#pragma once
#include <glm/glm.hpp>

#include <array>
#include <string_view>

/// Parametric solids: bodies that a few numbers describe, and the mesh that they are (docs/formats/solids.md
/// gives each formula). Metres, Y up.
namespace zl::solids {

enum class Kind { Box, Cylinder, Wedge, Ball, Tube, Ring };
inline constexpr std::string_view kindNames[] = {"box", "cylinder", "wedge", "ball", "tube", "ring"};

/// What a hollow looks like from above.
enum class Outline { Same, Round, Square, Triangle };
inline constexpr std::string_view outlineNames[] = {"same", "round", "square", "triangle"};

/// How a solid is shaped. It fills a box of `size`, before what follows bends it: heights go from 0 at the
/// foot to 1 at the head, angles are seen from above, from +Z towards +X.
struct Shape {
    Kind kind = Kind::Box;
    glm::dvec3 size{1};          ///< metres: across, up, along
    double gapFrom = 0, gap = 0; ///< degrees: where the part that is left out begins, and how wide it is
    double hollow = 0;           ///< share of the width that is taken out of the middle, 0 to 0.95
    Outline outline = Outline::Same;
    double thick = 0.5; ///< of a tube's or a ring's wall: a share of its half width, 0.05 to 1
    glm::dvec2 foot{1}; ///< how wide and how long its foot is: shares of the size, 0 to 2
    glm::dvec2 head{1}; ///< the same of its head
    glm::dvec2 lean{
        0};           ///< by how much the head stands ahead of the foot, across and along: shares of the size
    double twist = 0; ///< degrees that the head is turned further than the foot

    bool operator==(const Shape&) const = default;
};

/// What each number may be.
struct Range {
    double least, most;
};
inline constexpr Range sizes{0.001, 10000}, gaps{0, 350}, hollows{0, 0.95}, thicknesses{0.05, 1},
    widths{0, 2}, leans{-2, 2}, twists{-720, 720};

/// Throws Error naming the number that is none or beyond its range, and for one that is flat: narrowed to
/// nothing at both ends, along one side.
void demandShape(const Shape& shape);

/// The faces that a solid may have, by numbers that stay the same whatever else it is.
enum Face : int {
    FootFace,
    HeadFace,
    FirstSide, ///< a box's or wedge's four from +Z on, each further towards +X; of others all around
    Bore = 6,  ///< of a tube: the side towards the middle
    Inside,    ///< of what is hollow
    GapFrom,   ///< where the gap begins
    GapTo,
    faceCount
};

} // namespace zl::solids
