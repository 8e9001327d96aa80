#pragma once
#include "core/blocks/block.h"

namespace zl::blocks {

/// Takes out what lies deeper than `wall` blocks, and says how many those were. What is empty or a slope and
/// can be reached from outside counts as outside, also corner to corner, so that no look and no ray gets in;
/// a cavity that was there stays one. Throws Error for a wall of none.
std::size_t hollowOut(Build& build, int wall);

} // namespace zl::blocks
