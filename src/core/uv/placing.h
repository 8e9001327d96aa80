#pragma once
#include <glm/glm.hpp>

namespace zl::uv {

/// How a picture is moved on what wears it, as it is seen: it grows, turns about a centre, then moves.
struct Placing {
    glm::dvec2 offset{0};  ///< to its own right and down, in shares of its width and height
    double turn = 0;       ///< radians, counter-clockwise
    glm::dvec2 scale{1.0}; ///< across and down; above 0

    bool operator==(const Placing&) const = default;
};

/// What becomes of the UVs, which go the other way than the picture: about `centre` (a UV), for a picture of
/// `aspect` = width / height, so that a turn is one for pictures that are not square too.
glm::dmat3 uvMapOf(const Placing& placing, glm::dvec2 centre, double aspect);

} // namespace zl::uv
