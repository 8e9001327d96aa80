#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// Takes out what lies deeper than `wall` blocks, and says how many those were. What is empty or a slope and
/// can be reached from outside counts as outside, also corner to corner, so that no look and no ray gets in;
/// a cavity that was there stays one. Throws Error for a wall of none.
/// Where `keep` says so (a cell each, or empty) a block stays all the same.
std::size_t hollowOut(Build& build, int wall, const std::vector<char>& keep = {});

/// How many blocks lie deeper than `wall`: what hollowOut() would take.
std::size_t deeperThan(const Build& build, int wall);

} // namespace zl::blocks
