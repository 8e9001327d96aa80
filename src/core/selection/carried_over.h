#pragma once
#include "core/selection/chosen.h"

namespace zl::selection {

/// A selection that was made on one model, brought to another of other topology by nearest surface. A guess:
/// to be looked at before it is kept.
struct CarriedOver {
    Selection selection;      ///< with the faces for the other topology beside those it had
    Chosen onFirst, onSecond; ///< what it chooses on each
    double certain = 1;       ///< 0 to 1
};

/// Objects are paired as sizes are (geometry/twins.h) and each pair is brought to one box; a triangle of the
/// second is chosen when most of four points of it lie nearest to chosen triangles of the first. How certain
/// that is: the part of the points, by area, that agree with their triangle, where any of them is chosen;
/// points whose nearest surface is further than a fiftieth of the size, or faces the other way, count half.
/// Throws Error when the selection does not hold on the first, or an object has no pair.
CarriedOver carriedOver(const Selection& selection, const Model& first, const Model& second);

} // namespace zl::selection
