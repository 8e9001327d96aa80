#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <span>

namespace zl::contact {

/// How well bodies stand for what a mesh encloses, in the mesh's units (volumes cubed).
struct PiecesFit {
    double volume = 0;          ///< what the mesh encloses
    double filled = 0;          ///< within a piece and outside the mesh: solid to the game, and is not
    double missing = 0;         ///< inside the mesh and within no piece: passes through in the game
    double largestDistance = 0; ///< of either from the other's surface
    double unknown = 0;         ///< share of the lines on which the mesh is open, so that nothing is known

    double filledShare() const { return volume > 0 ? filled / volume : 0; }
    double missingShare() const { return volume > 0 ? missing / volume : 0; }
};

struct FitLines {
    int alongLongest = 192; ///< the volume of a ball is right to 0.1 % then
    bool distances = true;  ///< false leaves the largest distance out, which takes most of the time
};

/// Measured along three grids of parallel lines, with no share in how the pieces were made. `pieces` are
/// closed and face outward; they may overlap.
PiecesFit fitOf(const Mesh& mesh, std::span<const Mesh> pieces, const Progress& progress = {},
                const FitLines& lines = {});

} // namespace zl::contact
