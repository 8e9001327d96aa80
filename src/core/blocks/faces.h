#pragma once
#include "core/model/block_build.h"

namespace zl::blocks {

/// The sides of a cube: −X, +X, −Y, +Y, −Z, +Z.
inline constexpr glm::ivec3 sides[] = {{-1, 0, 0}, {1, 0, 0}, {0, -1, 0}, {0, 1, 0}, {0, 0, -1}, {0, 0, 1}};

/// A flat face of a block in its cube from 0 to 1, seen from outside against the clock.
struct Face {
    std::array<glm::ivec3, 4> corners{};
    int count = 4; ///< of the corners: a triangle has 3
    int side = -1; ///< of the cube that it lies on; −1 for a slope
    /// What it covers of that side: its diagonals cut it in four, one bit for each quarter. All four bits for
    /// the whole side, two that meet for half of it; 0 for a slope.
    std::uint8_t quarters = 0;
};

const std::vector<Face>& facesOf(Kind kind, Turn turn);
/// The quarters of a side that a block covers.
std::uint8_t covers(const Block& block, int side);

/// Whether something of a face is seen beside a neighbour (null for none) on the face's side.
bool isSeen(const Face& face, const Block* neighbour);

} // namespace zl::blocks
