#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// Where a build and the surface that it was made of differ most.
struct Difference {
    double blocks = 0;      ///< between the middles of cells, so to within one block
    glm::ivec3 cell{0};     ///< where it is
    bool isLeftOut = false; ///< a surface that no block is near to, not a block that no surface is near to
};

/// `crossed` has an entry for each of the build's cells, whether the surface goes through; of blocks those
/// count that one sees. Nothing where there is neither. O(cells), by exact Euclidean distance transforms
/// (Felzenszwalb and Huttenlocher 2012).
Difference largestDifference(const Build& build, const std::vector<char>& crossed);

} // namespace zl::blocks
