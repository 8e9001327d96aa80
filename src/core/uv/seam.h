#pragma once
#include "core/uv/moved_uvs.h"
#include "core/uv/uv_faces.h"

namespace zl::uv {

/// A place on the seam between two panels, as it lies on the picture of each.
struct SeamPoint {
    glm::dvec2 first, second; ///< placed UVs
    double weight = 0;        ///< metres of the seam that it stands for
};

/// Where the borders of two panels meet.
struct Seam {
    std::vector<SeamPoint> points;
    double length = 0; ///< metres
};

/// The seam between two sets of triangles, none of which must be in both: places where their borders come
/// within `within` metres of each other, corners of one also against the middles of the other's edges. A
/// corner with several UVs on its side of the seam gives a place for each. Empty where they do not meet.
Seam seamBetween(const Model& model, const MarkedFaces& first, const MarkedFaces& second, double within);

/// A move, turn and even scale of the second panel's picture that lays it onto the first's along a seam.
struct SeamFit {
    glm::dmat3 map{1.0}; ///< of the second panel's placed UVs
    bool mirrored = false;
    double turn = 0, scale = 1;   ///< of the UVs; radians, counter-clockwise as the picture is seen
    double mean = 0, largest = 0; ///< what is left, in widths of the picture
};

/// By least squares over the seam's places (Umeyama 1991, in the plane), in pixels of pictures of that aspect
/// (width / height), so that nothing is sheared. `mirror` turns the second over; without `scale` it keeps its
/// size. Needs two places that are apart on both panels; null without.
std::optional<SeamFit> fitAcross(const Seam& seam, double aspect, bool mirror, bool scale);

/// The straight line that comes nearest to the second panel's side of a seam.
struct SeamLine {
    glm::dvec2 from, to; ///< its ends, placed UVs
    double largest = 0;  ///< how far the seam is from it, in widths of the picture
};
std::optional<SeamLine> lineAlong(const Seam& seam, double aspect);

} // namespace zl::uv
