#pragma once
#include "core/base/progress.h"
#include "core/geometry/world.h"

namespace zl::blocks {

/// A plane across X, and how unlike both its sides are.
struct Plane {
    double x = 0;
    double unlike = 0; ///< volume on one side only, of all; 0 to 2
};

/// A share of the volume: what is more unlike than that on either side nobody took for symmetric.
inline constexpr double lopsided = 0.1;

/// The plane that a model is most its own mirror image about, of all that lie near its middle. What is within
/// a hundredth of the width of the axes' own plane, or of the middle of the bounds, is taken for that.
/// `mesh` and `bounds` are in metres.
Plane planeOf(const Mesh& mesh, const geometry::Bounds& bounds, const Progress& progress = {});

/// How unlike the sides of a given plane are.
double unlikeAbout(const Mesh& mesh, const geometry::Bounds& bounds, double x, const Progress& progress = {});

} // namespace zl::blocks
