#pragma once
#include "core/base/progress.h"
#include "core/uv/projected.h"

namespace zl::uv {

/// How a chart lies in the square: turned by `turn` radians, then `scale` times as large, then moved.
struct ChartPlace {
    double turn = 0;
    glm::dvec2 by{0};
};

/// Charts of one or several meshes laid side by side into one UV square, each turned so that the box around
/// it is small, all to one scale, the largest that fits, `padding` (a share of the square) around each.
struct PackedCharts {
    double scale = 1;                            ///< UV squares a metre
    std::vector<std::vector<ChartPlace>> places; ///< by mesh and chart
    double used = 0;                             ///< share of the square that boxes around charts take

    glm::dvec2 of(std::size_t mesh, int chart, glm::dvec2 at) const;
};
/// Throws Error when there are too many charts for the square with that padding.
PackedCharts packedCharts(const std::vector<const Charts*>& meshes, double padding,
                          const Progress& progress = {});

} // namespace zl::uv
