#pragma once
#include "core/blocks/filled.h"

namespace zl::blocks {

/// A stretch of a line that is inside, in blocks.
struct ThinStretch {
    int u = 0, v = 0; ///< of its line on the grid of samples, on the two axes that follow the line's
    double from = 0, to = 0;
};

/// Gives what is thin along `axis` one block there and no more. Thin is what reaches over a block or more on
/// both other axes and is made of stretches that go on from line to line, not steeper than half a right
/// angle; edges of what is thick are not. `stretches` are all that are short enough, in order of their lines.
void thinTo(Filled& filled, int axis, const std::vector<ThinStretch>& stretches, ThinSide side);

} // namespace zl::blocks
