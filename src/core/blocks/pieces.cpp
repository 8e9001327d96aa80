#include "core/blocks/pieces.h"

#include "core/blocks/faces.h"

#include <algorithm>
#include <numeric>

namespace zl::blocks {

bool holdTogether(const Block& one, int side, const Block& other) {
    return (one.kind == Kind::Cube && other.kind == Kind::Cube) ||
           (covers(one, side) & covers(other, side ^ 1)) != 0;
}

Pieces piecesOf(const Build& build) {
    Pieces out;
    out.of.assign(build.cellCount(), -1);
    std::vector<std::size_t> open;
    for (std::size_t start = 0; start < build.cellCount(); ++start) {
        if (!build.isThere(start) || out.of[start] >= 0) continue;
        const int number = int(out.blocks.size());
        out.blocks.push_back(0);
        out.of[start] = number;
        open.push_back(start);
        while (!open.empty()) {
            const std::size_t at = open.back();
            open.pop_back();
            ++out.blocks.back();
            const glm::ivec3 cell = cellIn(build.size(), at);
            for (int side = 0; side < 6; ++side) {
                if (!build.holds(cell + sides[side])) continue;
                const std::size_t there = indexIn(build.size(), cell + sides[side]);
                if (!build.isThere(there) || out.of[there] >= 0) continue;
                if (!holdTogether(build.block(at), side, build.block(there))) continue;
                out.of[there] = number;
                open.push_back(there);
            }
        }
    }
    std::vector<int> order(out.blocks.size()), place(out.blocks.size());
    std::iota(order.begin(), order.end(), 0);
    std::ranges::stable_sort(order, std::greater(),
                             [&](int piece) { return out.blocks[std::size_t(piece)]; });
    std::vector<std::size_t> sorted;
    for (std::size_t i = 0; i < order.size(); ++i) {
        place[std::size_t(order[i])] = int(i);
        sorted.push_back(out.blocks[std::size_t(order[i])]);
    }
    out.blocks = std::move(sorted);
    for (int& piece : out.of)
        if (piece >= 0) piece = place[std::size_t(piece)];
    return out;
}

std::vector<glm::ivec3> dropStrays(Build& build, std::size_t least) {
    const Pieces pieces = piecesOf(build);
    std::vector<glm::ivec3> out;
    for (std::size_t i = 0; i < pieces.of.size(); ++i) {
        const int piece = pieces.of[i];
        if (piece <= 0 || pieces.blocks[std::size_t(piece)] >= least) continue;
        out.push_back(cellIn(build.size(), i));
        build.take(out.back());
    }
    return out;
}

} // namespace zl::blocks
