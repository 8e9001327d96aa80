#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// Whether two neighbours hold together: `side` of the one lies against the other, and both cover some of
/// the same quarter there.
bool holdTogether(const Block& one, int side, const Block& other);

/// Which blocks hang together: for each cell the number of its piece, −1 where nothing is. Pieces are
/// numbered from 0, the one of most blocks first, like ones in the order of their cells.
struct Pieces {
    std::vector<int> of;
    std::vector<std::size_t> blocks; ///< of each piece
};
Pieces piecesOf(const Build& build);

/// Takes out the pieces of fewer than `least` blocks, and says which cells those were. The largest piece
/// stays.
std::vector<glm::ivec3> dropStrays(Build& build, std::size_t least);

} // namespace zl::blocks
