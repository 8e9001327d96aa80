#pragma once
#include "core/geometry/world.h"
#include "core/model/block_build.h"

namespace zl::blocks {

/// How large a build becomes.
struct Size {
    enum class By {
        Blocks, ///< so many along `axis`
        Metres, ///< so long along `axis`
        Factor  ///< so many times as large as the model is
    };
    By by = By::Blocks;
    int axis = 2; ///< 0 across, 1 up, 2 along
    double value = 20;
};

/// Where the cells lie that a model is built in.
struct Lattice {
    glm::ivec3 size{0};
    glm::ivec3 first{0};    ///< number of the first cell, as Hull has it
    double edge = 1;        ///< of a block, metres
    double factor = 1;      ///< by which the model grows
    glm::dvec3 origin{0};   ///< of the hull's own metres, in the grown model's
    glm::dmat4 toBlocks{1}; ///< from the model's metres to blocks, the first cell's corner at 0
};

/// The cells around `bounds` (metres, not empty): one column on `plane`, the X of the centre line, and as
/// many on either side. They begin at the bottom; where the length is no whole number of blocks, what is left
/// over is shared between both ends. Throws Error for a size that is none, and for more blocks than can be
/// worked with.
Lattice latticeFor(const geometry::Bounds& bounds, double edge, const Size& size, double plane);

} // namespace zl::blocks
