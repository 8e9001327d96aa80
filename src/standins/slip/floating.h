#pragma once
#include "standins/slip/hull.h"

namespace zl::standins::slip {

/// How a hull lies in still water, in blocks, tonnes and degrees. Its middle column is X 0, its bottom Y 0,
/// the middle of its length Z 0.
struct Floating {
    double tonnes = 0;    ///< without what falls off
    double draught = 0;   ///< how deep its bottom lies under water; as high as it is when it goes under
    double freeboard = 0; ///< from the water to where it would come in; 0 when it goes under
    bool floats = false;
    glm::dvec3 weight{0}; ///< the middle of mass
    glm::dvec3 lift{0};   ///< the middle of what it pushes aside
    /// How far above the middle of mass the point lies about which it sways (metacentre, Bouguer 1746): above
    /// 0 it rights itself. From side to side, and fore and aft.
    double righting = 0, rightingAlong = 0;
    double heel = 0, trim = 0; ///< how it leans: to +X, and by the bow down
};

/// Layer by layer: water stands wherever it can come to from outside below the surface, and what it cannot
/// come to lifts, be it block or air. The yard's blocks weigh as its rules say.
Floating floatingOf(const Hull& hull);

} // namespace zl::standins::slip
