#pragma once
#include "core/model/block_build.h"

#include <utility>
#include <vector>

namespace zl::blocks {

/// Blocks taken by themselves, each with its cell's number.
using Chunk = std::vector<std::pair<glm::ivec3, Block>>;

/// The blocks of a hull in the box from one cell to another, both with it.
Chunk chunkWithin(const Hull& hull, glm::ivec3 one, glm::ivec3 other);
Chunk movedBy(Chunk chunk, glm::ivec3 way);
/// The other way round along an axis, in the box that it fills.
Chunk flipped(Chunk chunk, int axis);
/// The image on the other side of the centre line of each block that stands on one.
Chunk imagesOf(const Chunk& chunk);

/// The turn of a kind that stands best on what was clicked: with a whole side against it (`side` points from
/// there), and open towards `eye`, a direction.
Turn turnTowards(Kind kind, int side, const glm::dvec3& eye);
/// The next turn that makes another block of the kind.
Turn nextTurn(Kind kind, Turn turn);

} // namespace zl::blocks
