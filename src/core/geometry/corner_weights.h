#pragma once
#include "core/model/mesh.h"

#include <functional>

namespace zl::geometry {

/// What is kept of the weights with which corners hang on bones.
struct WeightLimit {
    int most = 4;     ///< bones a corner
    double least = 0; ///< share of a corner below which a bone lets it go
};

/// What it came to.
struct LimitedWeights {
    Mesh mesh;
    std::size_t changed = 0; ///< corners
    double mostLost = 0;     ///< largest share of a corner that its bones let go, 0 to 1
};

/// The mesh with few weights a corner, that together are 1: a bone that is named twice counts once, the
/// lightest go first (of equal ones the later), and of every corner the heaviest stays. A corner without
/// weights stays without. Weights that are no numbers, or less than 0, count as 0.
LimitedWeights withFewWeights(const Mesh& mesh, const WeightLimit& limit);

/// The mesh with each joint index replaced by `other`; what then hangs on one bone twice hangs on it once.
Mesh withJoints(const Mesh& mesh, const std::function<int(int)>& other);

} // namespace zl::geometry
