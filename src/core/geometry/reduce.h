#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::geometry {

struct ReduceGoal {
    std::size_t triangles = 0;    ///< wanted number; 0 to go by deviation alone
    double largestDeviation = 0;  ///< mesh units; 0 for no bound. An estimate guides the work, see reduce()
    bool holdOpenBorders = false; ///< keep every corner on an open border where it is
};

/// Fewer triangles by edge collapse under a quadric error metric (Garland & Heckbert 1997; meshoptimizer).
/// UV seams, borders of colours, materials, bone weights and morph offsets are kept because corners that
/// differ in them are seams to the method; hard edges keep their normals: every corner gets the original
/// normal at its place that is nearest to its new face. The mesh should be welded. Never returns more
/// triangles than it was given, and none only when going by deviation alone. Morph targets, joints and
/// weights stay with their vertices.
Mesh reduce(const Mesh& mesh, const ReduceGoal& goal, const Progress& progress = {});

} // namespace zl::geometry
