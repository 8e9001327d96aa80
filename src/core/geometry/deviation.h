#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::geometry {

/// Enough for every corner of a scan of a million triangles, so that a reduction's number and its colours
/// agree.
inline constexpr std::size_t deviationSamples = 400000;

/// Distances between two surfaces, in mesh units, measured from points of each to the nearest point of the
/// other (a sampled two-sided Hausdorff distance; Cignoni, Rocchini, Scopigno 1998).
struct Deviation {
    double largest = 0;         ///< over both directions
    double mean = 0;            ///< mean of the two directions' means
    double largestToFirst = 0;  ///< from the second's points to the first surface
    double largestToSecond = 0; ///< from the first's points to the second surface
    std::size_t samples = 0;
};

/// Measures with at most about `samples` points a direction: corners, spread evenly over the list, and for
/// the second mesh the middles of its triangles too. Zero samples when either has no triangles.
Deviation deviationBetween(const Mesh& first, const Mesh& second, std::size_t samples = deviationSamples,
                           const Progress& progress = {});

/// For each triangle of `mesh`, the largest distance to `reference` seen there, in mesh units: of its own
/// middle, and of those corners of the reference (at most about `samples`) that are nearest to it. Corners of
/// a reduced mesh lie on the original, so they alone would show nothing.
std::vector<float> triangleDeviation(const Mesh& mesh, const Mesh& reference,
                                     std::size_t samples = deviationSamples, const Progress& progress = {});

} // namespace zl::geometry
