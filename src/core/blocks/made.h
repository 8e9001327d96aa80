#pragma once
#include "core/blocks/filled.h"
#include "core/blocks/largest_difference.h"
#include "core/blocks/lattice.h"
#include "core/blocks/symmetry.h"
#include "core/model/model.h"

namespace zl::blocks {

/// How a model is to become a build.
struct Wanted {
    double edge = 1; ///< of a block, metres
    Size size;
    Slopes slopes = Slopes::WhereTheyHelp;
    std::optional<Halves> halves = Halves::Better; ///< both sides alike; nothing leaves them as they are
    std::optional<double> plane; ///< X of the centre line in metres; found where it is not given
    int wall = 1;                ///< blocks; 0 leaves it full
    bool braces = false;         ///< what of the model's own surfaces runs inside stays
    ThinParts thin{1.25};
    std::size_t strays = 8; ///< pieces of fewer blocks are left out
    std::vector<Paint> paints{};
};

struct Stray {
    std::size_t blocks = 0;
    glm::dvec3 at{0}; ///< the middle of one of them, metres of the hull
};

/// What came of it, to be shown.
struct Made {
    Hull hull; ///< without mesh
    double factor = 1;
    glm::dvec3 origin{0};           ///< of the hull's own metres, in world space
    double plane = 0;               ///< X of the centre line, before it grew
    double unlike = 0;              ///< by how much left and right differ, of the volume
    double volume = 0;              ///< of the model, in blocks
    double error = 0;               ///< volume that is wrong, before it was hollowed, in blocks
    double ofLeft = 0, ofRight = 0; ///< the same of either side on both
    Difference largest;             ///< from the model's surface, before it was hollowed
    glm::dvec3 largestAt{0};        ///< where that is, metres of the hull
    std::size_t objects = 0, sheets = 0, bridges = 0, hollowed = 0, withoutSlopes = 0;
    std::size_t unsure = 0; ///< samples that were settled by the winding number
    std::vector<Stray> strays;
};

/// A build of all that the model shows, in world space as it stands there. Throws Error for a model of
/// nothing, and as latticeFor() does; throws Cancelled.
Made made(const Model& model, const Wanted& wanted, const Progress& progress = {});

} // namespace zl::blocks
