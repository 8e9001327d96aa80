#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::geometry {

struct CleanResult {
    Mesh mesh;
    std::size_t sliversRemoved =
        0; ///< triangles without area, by equal corners or with all three on one line
    std::size_t doublesRemoved = 0; ///< triangles on the same three places as an earlier one
    std::size_t sliversKept = 0;    ///< those that cannot be taken out without making others
};

/// Whether a triangle has equal corners, or is lower than `tolerance` (mesh units) over its longest edge, or
/// lower than one millionth of that edge.
bool isSliver(const Mesh& mesh, std::size_t triangle, double tolerance = 0);

/// Drops triangles without area and doubles. A sliver whose three corners differ (a corner lying on the
/// opposite edge) is taken out as turnSlivers() does it, so that no gap opens. A sliver is lower than
/// `tolerance` (mesh units) over its longest edge, or than one millionth of it.
CleanResult clean(const Mesh& mesh, float tolerance, const Progress& progress = {});

struct WindingResult {
    Mesh mesh;
    std::size_t turnedToAgree = 0; ///< triangles turned so that neighbours agree
    std::size_t turnedOutward = 0; ///< triangles of pieces that faced inward as a whole
};

/// Makes neighbouring triangles agree on which side is front, then turns each piece whose signed volume is
/// negative (divergence theorem; open pieces about their own middle), except the inner surface of a hollow: a
/// closed piece that faces inward and lies inside an odd number of other closed pieces is right as it is.
/// Only edges with exactly two triangles carry agreement. Where normals disagree with a turned face, they are
/// turned with it.
WindingResult faceOutward(const Mesh& mesh, const Progress& progress = {});

/// Signed volume enclosed by the mesh, in cubic mesh units, about `origin`; meaningful when closed.
double signedVolume(const Mesh& mesh, const glm::dvec3& origin = glm::dvec3(0.0));

} // namespace zl::geometry
