#pragma once
#include "core/blocks/crossed.h"
#include "core/blocks/solid.h"

namespace zl::blocks {

/// Joins pieces that meet at edges of blocks only, or where slopes leave nothing to hold to, by blocks in
/// between: as slopes where there are to be any. `mirrored` does the same on both sides along X. Says how
/// many blocks came or were filled up.
std::size_t bridgeEdges(Build& build, Slopes slopes, bool mirrored);

/// Joins pieces between which the surface goes on through at most `most` empty cells.
std::size_t bridgeAlong(Build& build, const Crossed& crossed, int most, bool mirrored);

} // namespace zl::blocks
