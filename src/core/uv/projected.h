#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::uv {

/// New UVs for a mesh: triangles in charts, and places for their corners. Corners that triangles of two
/// charts share get a place in each.
struct Charts {
    std::vector<int> chart;                    ///< of each triangle, from 0
    std::vector<std::array<glm::dvec2, 3>> at; ///< of each triangle's corners, in metres, rows downward
    std::size_t count = 0;
};

/// Along the world's axis that each triangle faces most: six charts, each upright.
Charts boxCharts(const Mesh& mesh, const glm::dmat4& toWorld);
/// All along one axis (0 X, 1 Y, 2 Z): one chart.
Charts planeCharts(const Mesh& mesh, const glm::dmat4& toWorld, int axis);
/// Round an axis through the middle of the mesh: around and along it, in metres at the mean distance; what
/// faces along the axis is laid flat as two more charts. A triangle across the back goes on beyond the turn.
Charts cylinderCharts(const Mesh& mesh, const glm::dmat4& toWorld, int axis);
/// Flat islands: each grows from its largest triangle over edges to triangles that face less than `angle`
/// radians away from it, and is laid flat along that. Triangles that would lie on others of their island make
/// islands of their own. Triangles without an area make islands by their neighbours, or their own.
Charts islandCharts(const Mesh& mesh, const glm::dmat4& toWorld, double angle, const Progress& progress = {});

} // namespace zl::uv
