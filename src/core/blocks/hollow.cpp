#include "core/blocks/hollow.h"

#include "core/base/error.h"

#include <deque>

namespace zl::blocks {

namespace {

template <class Do>
void forEachBeside(glm::ivec3 size, glm::ivec3 cell, const Do& does) {
    for (int z = std::max(cell.z - 1, 0); z <= std::min(cell.z + 1, size.z - 1); ++z)
        for (int y = std::max(cell.y - 1, 0); y <= std::min(cell.y + 1, size.y - 1); ++y)
            for (int x = std::max(cell.x - 1, 0); x <= std::min(cell.x + 1, size.x - 1); ++x)
                does(indexIn(size, {x, y, z}));
}

/// How deep each cell lies: 0 outside, 1 for the first wall, and so on.
std::vector<int> depths(const Build& build, int wall) {
    if (wall < 1) throw Error("a hull needs a wall of at least one block", {}, "Give it one.");
    const glm::ivec3 size = build.size();
    std::vector<int> depth(build.cellCount(), -1);
    std::deque<std::size_t> open;
    const auto isOpen = [&](std::size_t at) {
        return !build.isThere(at) || build.block(at).kind != Kind::Cube;
    };
    for (std::size_t i = 0; i < depth.size(); ++i) {
        const glm::ivec3 cell = cellIn(size, i);
        const bool edge = cell.x == 0 || cell.y == 0 || cell.z == 0 || cell.x == size.x - 1 ||
                          cell.y == size.y - 1 || cell.z == size.z - 1;
        if (!edge) continue;
        depth[i] = isOpen(i) ? 0 : 1;
        depth[i] == 0 ? open.push_front(i) : open.push_back(i);
    }
    // Steps within the outside are free, so that the nearest is always taken first.
    while (!open.empty()) {
        const std::size_t at = open.front();
        open.pop_front();
        forEachBeside(size, cellIn(size, at), [&](std::size_t next) {
            const bool free = depth[at] == 0 && isOpen(next);
            const int reached = free ? 0 : depth[at] + 1;
            if (depth[next] >= 0 && depth[next] <= reached) return;
            depth[next] = reached;
            free ? open.push_front(next) : open.push_back(next);
        });
    }
    return depth;
}

} // namespace

std::size_t hollowOut(Build& build, int wall, const std::vector<char>& keep) {
    const auto depth = depths(build, wall);
    std::size_t out = 0;
    for (std::size_t i = 0; i < depth.size(); ++i)
        if (build.isThere(i) && depth[i] > wall && (keep.empty() || !keep[i]))
            build.take(cellIn(build.size(), i)), ++out;
    return out;
}

std::size_t deeperThan(const Build& build, int wall) {
    const auto depth = depths(build, wall);
    std::size_t out = 0;
    for (std::size_t i = 0; i < depth.size(); ++i) out += build.isThere(i) && depth[i] > wall;
    return out;
}

} // namespace zl::blocks
