#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// Of a cube's 4 × 4 × 4 samples, in the middles of as many smaller cubes, one bit each: X first, then Y,
/// then Z.
using Samples = std::uint64_t;
inline constexpr int samplesAlong = 4;

/// A block by samples: those inside, and those that lie on its slopes, where inside is a matter of taste.
struct Shape {
    Samples inside = 0, surface = 0;

    bool operator==(const Shape&) const = default;
};

const Shape& shapeOf(Kind kind, Turn turn);
Shape mirrored(const Shape& shape, int axis);
Samples mirrored(Samples samples, int axis);

/// How much of a cube is filled that is not inside, or the other way round; 0 to 1. What lies on slopes is
/// left out of account.
double misfit(const Shape& shape, Samples inside);
/// The same for no block at all.
double misfitOfNone(Samples inside);

} // namespace zl::blocks
