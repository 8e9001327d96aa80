#pragma once
#include "core/blocks/solid.h"

namespace zl::blocks {

/// What becomes of the two sides along X, about the column in the middle. Left is −X.
enum class Halves { Better, Left, Right, Averaged };

struct Symmetric {
    Build build;
    /// The volume error, in blocks, of the left side on both sides and of the right one.
    double ofLeft = 0, ofRight = 0;
};

/// The nearest blocks that are together their own mirror image along X. `filled` is an odd number of cells
/// wide, so that one column stands on the centre line; throws Error for an even one.
Symmetric symmetric(const Filled& filled, Slopes slopes, Halves halves);

/// How many cells hold another block than their image on the other side, each pair once.
std::size_t unlikeCells(const Build& build);
bool isSymmetric(const Build& build);

} // namespace zl::blocks
