#pragma once
#include "core/model/mesh.h"
#include "core/solids/scene.h"

namespace zl::solids {

/// The box, cylinder or ball that comes nearest to a surface, standing where it does.
struct Nearest {
    Solid solid;      ///< its shape, place and turn
    double error = 0; ///< the furthest that either surface lies from the other
};

/// The surface in metres; it has triangles, and all its corners are numbers. Directions to stand along are
/// those that most of its area looks to, those that its faces are square on (eigenvectors of the covariance
/// of their normals, by area), those that it stretches along, and the world's. Circles are fitted by least
/// squares (Kåsa 1976); nearest is what has the least squares of distances, from either surface.
Nearest nearestSolid(const Mesh& surface);

} // namespace zl::solids
