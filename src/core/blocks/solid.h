#pragma once
#include "core/blocks/filled.h"

#include <optional>
#include <span>

namespace zl::blocks {

enum class Slopes { None, WhereTheyHelp, Everywhere };

/// The block, or none, that differs least by volume, on average where there are several to come near to. A
/// slope that is only somewhat nearer than a cube or nothing is not taken where they are only to help.
/// `ownImage`: only blocks that are their own mirror images along X.
std::optional<Block> nearestBlock(std::span<const Samples> inside, Slopes slopes, bool ownImage = false);

/// The nearest block of each cell.
Build solidOf(const Filled& filled, Slopes slopes);

/// The volume by which a build and what it was made from differ, in blocks; what lies on slopes is left out
/// of account.
double volumeError(const Build& build, const Filled& filled);
/// In blocks.
double volumeOf(const Build& build);

} // namespace zl::blocks
