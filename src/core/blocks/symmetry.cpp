#include "core/blocks/symmetry.h"

#include "core/base/error.h"
#include "core/blocks/turns.h"

#include <tbb/parallel_invoke.h>

namespace zl::blocks {

namespace {

/// Calls `does(cell, its mirror image)` once for each pair, and for each cell on the centre line.
template <class Do>
void forEachPair(glm::ivec3 size, const Do& does) {
    for (int z = 0; z < size.z; ++z)
        for (int y = 0; y < size.y; ++y)
            for (int x = 0; x < (size.x + 1) / 2; ++x) does(glm::ivec3(x, y, z), imageOf(size, {x, y, z}));
}

/// What a cell on the left, or on the line, and its image come near to together.
std::vector<Samples> nearTo(const Filled& filled, Halves from, glm::ivec3 left) {
    const glm::ivec3 right = imageOf(filled.size, left);
    const Samples here = filled.cells[indexIn(filled.size, left)],
                  there = mirrored(filled.cells[indexIn(filled.size, right)], 0);
    if (left == right || from == Halves::Averaged) return {here, there};
    return {from == Halves::Left ? here : there};
}

/// Of what stands on the left, or on the right, or of both together.
Build made(const Filled& filled, Slopes slopes, Halves from) {
    Build out(filled.size);
    forEachPair(filled.size, [&](glm::ivec3 left, glm::ivec3 right) {
        const std::size_t here = indexIn(filled.size, left), there = indexIn(filled.size, right);
        if (filled.cells[here] == 0 && filled.cells[there] == 0) return;
        if (filled.cells[here] == ~Samples(0) && filled.cells[there] == ~Samples(0)) {
            out.put(left, {});
            out.put(right, {});
            return;
        }
        const Beside beside =
            from == Halves::Right ? besideOf(filled, right).mirrored() : besideOf(filled, left);
        if (const auto block = nearestBlock(nearTo(filled, from, left), slopes, beside, left == right)) {
            out.put(left, *block);
            out.put(right, mirrored(*block, 0));
        }
    });
    if (slopes != Slopes::WhereTheyHelp) return out;
    for (int round = 0; round < settlings; ++round)
        settle(
            out,
            [&](glm::ivec3 cell) {
                return cell.x <= imageOf(filled.size, cell).x ? nearTo(filled, from, cell)
                                                              : std::vector<Samples>();
            },
            [&](glm::ivec3 cell, std::optional<Block> block) {
                for (const glm::ivec3 one : {cell, imageOf(filled.size, cell)})
                    block ? out.put(one, *block) : out.take(one);
            });
    return out;
}

} // namespace

Symmetric symmetric(const Filled& filled, Slopes slopes, Halves halves) {
    if (filled.size.x % 2 == 0)
        throw Error("an even number of blocks has none on the centre line", {}, "Make it one block wider.");
    Symmetric out;
    Build left, right;
    tbb::parallel_invoke(
        [&] { left = made(filled, slopes, Halves::Left), out.ofLeft = volumeError(left, filled); },
        [&] { right = made(filled, slopes, Halves::Right), out.ofRight = volumeError(right, filled); });
    if (halves == Halves::Better) halves = out.ofLeft <= out.ofRight ? Halves::Left : Halves::Right;
    out.build = halves == Halves::Left    ? std::move(left)
                : halves == Halves::Right ? std::move(right)
                                          : made(filled, slopes, Halves::Averaged);
    return out;
}

std::size_t unlikeCells(const Build& build) {
    std::size_t out = 0;
    forEachPair(build.size(), [&](glm::ivec3 left, glm::ivec3 right) {
        const Block *here = build.at(left), *there = build.at(right);
        if (!here || !there) {
            out += here != there;
            return;
        }
        out += !isAlike(mirrored(*there, 0), *here);
    });
    return out;
}

bool isSymmetric(const Build& build) {
    return unlikeCells(build) == 0;
}

} // namespace zl::blocks
