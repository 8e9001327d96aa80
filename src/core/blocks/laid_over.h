#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// A hull with another laid over it: what it puts and takes away by hand.
struct LaidOver {
    Hull hull; ///< without mesh
    std::size_t put = 0, taken = 0,
                other = 0; ///< where nothing was, where one was, and where another one was
    /// Numbers of cells where the layer does nothing any more: the same block stands there already, or none
    /// that could be taken.
    std::vector<glm::ivec3> idle;
};

/// `below` grows as far as it has to. The layer's paints are those of `below` that look most like them; one
/// without blocks of another edge than `below` throws Error.
LaidOver laidOver(const Hull& below, const Hull& layer);

/// Without the layers of cells at the ends that hold nothing; across as many on both sides, so that the
/// middle stays.
Hull trimmed(Hull hull);

} // namespace zl::blocks
