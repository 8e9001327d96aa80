#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// What a turn does to a direction: 0 is none; four turns about Y for each of the six faces that can be up.
glm::ivec3 turned(Turn turn, glm::ivec3 direction);
/// First the one, then the other.
Turn then(Turn first, Turn second);
Turn back(Turn turn);

/// The same turn, or the first of those that make the same of a kind: any turn of a cube is turn 0, and a
/// slope's two ends can be told apart by nothing.
Turn usual(Kind kind, Turn turn);
/// Whether two blocks are the same to look at.
bool isAlike(const Block& a, const Block& b);
/// All turns that make something else of a kind: 1, 12, 24, 24.
const std::vector<Turn>& turnsOf(Kind kind);

/// A block as it stands behind a mirror that turns `axis` (0 X, 1 Y, 2 Z) over.
Block mirrored(Block block, int axis);

} // namespace zl::blocks
