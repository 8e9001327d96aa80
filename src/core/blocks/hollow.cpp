#include "core/blocks/hollow.h"

#include "core/base/error.h"

#include <algorithm>

namespace zl::blocks {

namespace {

/// The cells that can be reached from outside, in a box that is one cell larger on every side: what is empty
/// or no cube, corner to corner.
std::vector<char> outside(const Build& build, glm::ivec3 padded) {
    std::vector<char> open(cellsIn(padded), 1), out(open.size(), 0);
    std::size_t i = 0;
    glm::ivec3 cell;
    for (cell.z = 1; cell.z < padded.z - 1; ++cell.z)
        for (cell.y = 1; cell.y < padded.y - 1; ++cell.y)
            for (cell.x = 1; cell.x < padded.x - 1; ++cell.x, ++i)
                if (build.isThere(i) && build.block(i).kind == Kind::Cube) open[indexIn(padded, cell)] = 0;
    std::vector<std::ptrdiff_t> around;
    for (int z = -1; z <= 1; ++z)
        for (int y = -1; y <= 1; ++y)
            for (int x = -1; x <= 1; ++x)
                around.push_back(x + std::ptrdiff_t(padded.x) * (y + std::ptrdiff_t(padded.y) * z));
    // The rim is outside, and nobody goes beyond it: the search begins within, beside it.
    std::vector<std::size_t> reached;
    const auto forEachAt = [&](int inset, const auto& does) { // the cells on the faces of a smaller box
        const glm::ivec3 low(inset), high = padded - 1 - inset;
        for (int axis = 0; axis < 3; ++axis)
            for (const int end : {low[axis], high[axis]}) {
                const int u = (axis + 1) % 3, v = (axis + 2) % 3;
                glm::ivec3 at;
                at[axis] = end;
                for (at[v] = low[v]; at[v] <= high[v]; ++at[v])
                    for (at[u] = low[u]; at[u] <= high[u]; ++at[u]) does(indexIn(padded, at));
            }
    };
    forEachAt(0, [&](std::size_t at) { out[at] = 1; });
    forEachAt(1, [&](std::size_t at) {
        if (open[at] && !out[at]) out[at] = 1, reached.push_back(at);
    });
    while (!reached.empty()) {
        const std::size_t at = reached.back();
        reached.pop_back();
        for (const std::ptrdiff_t way : around) {
            const std::size_t next = at + std::size_t(way);
            if (out[next] || !open[next]) continue;
            out[next] = 1, reached.push_back(next);
        }
    }
    return out;
}

/// Marks what lies within `far` cells of a mark along one axis.
void spread(std::vector<char>& marked, glm::ivec3 size, int axis, int far) {
    const std::size_t strides[] = {1, std::size_t(size.x), std::size_t(size.x) * std::size_t(size.y)};
    const int u = (axis + 1) % 3, v = (axis + 2) % 3, length = size[axis];
    std::vector<char> before(static_cast<std::size_t>(length));
    for (int j = 0; j < size[v]; ++j)
        for (int i = 0; i < size[u]; ++i) {
            char* line = &marked[std::size_t(i) * strides[u] + std::size_t(j) * strides[v]];
            for (int k = 0; k < length; ++k) before[std::size_t(k)] = line[std::size_t(k) * strides[axis]];
            const auto pass = [&](int k, int& since) {
                since = before[std::size_t(k)] ? 0 : since + 1;
                if (since <= far) line[std::size_t(k) * strides[axis]] = 1;
            };
            int ahead = far, behind = far; // nothing is marked beyond either end
            for (int k = 0; k < length; ++k) pass(k, behind);
            for (int k = length - 1; k >= 0; --k) pass(k, ahead);
        }
}

/// 1 for each block that lies deeper than `wall`.
std::vector<char> deeper(const Build& build, int wall) {
    if (wall < 1) throw Error("a hull needs a wall of at least one block", {}, "Give it one.");
    const glm::ivec3 size = build.size(), padded = size + 2;
    auto reached = outside(build, padded);
    for (int axis = 0; axis < 3; ++axis) spread(reached, padded, axis, wall);
    std::vector<char> out(build.cellCount(), 0);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = build.isThere(i) && !reached[indexIn(padded, cellIn(size, i) + 1)];
    return out;
}

} // namespace

std::size_t hollowOut(Build& build, int wall, const std::vector<char>& keep) {
    const auto inside = deeper(build, wall);
    std::size_t out = 0;
    for (std::size_t i = 0; i < inside.size(); ++i)
        if (inside[i] && (keep.empty() || !keep[i])) build.take(cellIn(build.size(), i)), ++out;
    return out;
}

std::size_t deeperThan(const Build& build, int wall) {
    return std::size_t(std::ranges::count(deeper(build, wall), 1));
}

} // namespace zl::blocks
