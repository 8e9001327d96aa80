#pragma once
#include "core/blocks/filled.h"

#include <functional>
#include <optional>
#include <span>

namespace zl::blocks {

enum class Slopes { None, WhereTheyHelp, Everywhere };

/// What stands beside a cell: a bit for each side, in the order of sides.
struct Beside {
    std::uint8_t full = 0;  ///< filled by half or more
    std::uint8_t empty = 0; ///< by less than a quarter

    /// The same with −X and +X the other way round.
    Beside mirrored() const;
};
Beside besideOf(const Filled& filled, glm::ivec3 cell);

/// The block, or none, that differs least by volume, on average where there are several to come near to.
/// `ownImage`: only blocks that are their own mirror images along X. Where slopes are only to help, one is
/// taken only if it is clearly nearer than a cube or nothing and is nearly the surface itself, or leans with
/// its whole sides against what is full and falls off to where nothing is: it carries a surface on then, and
/// stands nowhere as a spike or a pit.
std::optional<Block> nearestBlock(std::span<const Samples> inside, Slopes slopes, const Beside& beside,
                                  bool ownImage = false);

/// How often settle() is worth it: what one takes back may have held another.
inline constexpr int settlings = 2;
/// What a cell is to come near to; nothing for one that is left alone.
using NearTo = std::function<std::vector<Samples>(glm::ivec3 cell)>;
/// Takes back slopes that lean against nothing after all, as what is beside them became a slope too. `put`
/// gets each cell with what stands there instead.
void settle(const Build& build, const NearTo& nearTo,
            const std::function<void(glm::ivec3, std::optional<Block>)>& put);

/// The nearest block of each cell.
Build solidOf(const Filled& filled, Slopes slopes);

/// The volume by which a build and what it was made from differ, in blocks; what lies on slopes is left out
/// of account.
double volumeError(const Build& build, const Filled& filled);
/// In blocks.
double volumeOf(const Build& build);

} // namespace zl::blocks
