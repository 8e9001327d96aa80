#pragma once
#include "standins/table/world.h"

namespace zl::standins::table {

/// What the table measures of one figure, in table units; for its own collider or the default box.
struct Measured {
    double gapToFloor = 0;     ///< between table and lowest corner after it came to rest from 0.2 u
    bool staysUpright = false; ///< put down gently, it stands
    int uprightDrops = 0;      ///< of `drops`, from 3 u and tipped 3° towards different sides
    int drops = 10;
    double restSeconds = 0;   ///< until the upright drop came to rest
    double stackHeight = 0;   ///< of the upper one's origin when one is put on another; 0 when it fell
    double sideBySideGap = 0; ///< between the feet of two that touch
};

Measured measure(const Figure& figure, ColliderKind collider);

/// Distance between origins at which two stand collider to collider along x.
double touchingDistance(const world::Physics& physics, const Figure& figure, ColliderKind collider);
/// Width along x of the lowest 2 % of the figure.
double footWidth(const Figure& figure);

/// Loads the folder and, if it is accepted, runs all tests. See StandIn.
TryReport tryFolder(const std::filesystem::path& folder);

} // namespace zl::standins::table
