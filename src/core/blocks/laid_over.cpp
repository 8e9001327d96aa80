#include "core/blocks/laid_over.h"

#include "core/base/error.h"
#include "core/blocks/paint.h"
#include "core/blocks/turns.h"
#include "core/texture/colour_transfer.h"

#include <algorithm>

namespace zl::blocks {

namespace {

/// For each paint of the one, that of the other.
std::vector<std::uint8_t> matched(const std::vector<Paint>& from, const std::vector<Paint>& to) {
    const PaintBox box(to);
    std::vector<std::uint8_t> out;
    for (const Paint& paint : from) {
        const auto same = std::ranges::find(to, paint);
        out.push_back(same != to.end() ? std::uint8_t(same - to.begin())
                                       : box.nearest(texture::fromSrgb(paint.colour)));
    }
    return out;
}

/// The same hull in a box that reaches from `least` to `most`, both among its cells.
Hull grown(const Hull& hull, glm::ivec3 least, glm::ivec3 most) {
    Hull out = hull;
    // As far on one side as on the other, so that what was in the middle stays there.
    const int wide = std::max({-least.x, most.x, -hull.first.x, hull.first.x + hull.build.size().x - 1});
    least = glm::min(least, hull.first), most = glm::max(most, hull.first + hull.build.size() - 1);
    least.x = -wide, most.x = wide;
    if (least == hull.first && most == hull.first + hull.build.size() - 1) return out;
    out.first = least;
    out.build = Build(most - least + 1);
    for (std::size_t i = 0; i < hull.build.cellCount(); ++i)
        if (hull.build.isThere(i))
            out.build.put(cellIn(hull.build.size(), i) + hull.first - least, hull.build.block(i));
    return out;
}

} // namespace

Hull trimmed(Hull hull) {
    const glm::ivec3 size = hull.build.size();
    glm::ivec3 least = size, most{-1}, cell;
    std::size_t i = 0;
    for (cell.z = 0; cell.z < size.z; ++cell.z)
        for (cell.y = 0; cell.y < size.y; ++cell.y)
            for (cell.x = 0; cell.x < size.x; ++cell.x, ++i)
                if (hull.build.isThere(i)) least = glm::min(least, cell), most = glm::max(most, cell);
    if (most.x < 0) return hull;
    const int side = std::min(least.x, size.x - 1 - most.x);
    least.x = side, most.x = size.x - 1 - side;
    if (least == glm::ivec3(0) && most == size - 1) return hull;
    Build out(most - least + 1);
    for (cell.z = least.z; cell.z <= most.z; ++cell.z)
        for (cell.y = least.y; cell.y <= most.y; ++cell.y)
            for (cell.x = least.x; cell.x <= most.x; ++cell.x)
                if (const Block* block = hull.build.at(cell)) out.put(cell - least, *block);
    hull.build = std::move(out);
    hull.first += least;
    return hull;
}

LaidOver laidOver(const Hull& below, const Hull& layer) {
    if (layer.edge != below.edge)
        throw Error("what was put by hand is of blocks of another size", {},
                    "Begin it anew on this platform.");
    glm::ivec3 least(1 << 20), most(-(1 << 20));
    std::size_t puts = 0;
    for (std::size_t i = 0; i < layer.build.cellCount(); ++i)
        if (layer.build.isThere(i)) {
            const glm::ivec3 number = cellIn(layer.build.size(), i) + layer.first;
            least = glm::min(least, number), most = glm::max(most, number), ++puts;
        }
    LaidOver out;
    out.hull = puts > 0 ? grown(below, least, most) : below;
    out.hull.mesh = nullptr;
    Build& build = out.hull.build;
    const auto paints = matched(layer.paints, below.paints);
    for (std::size_t i = 0; i < layer.build.cellCount(); ++i) {
        if (!layer.build.isThere(i)) continue;
        const glm::ivec3 number = cellIn(layer.build.size(), i) + layer.first, cell = number - out.hull.first;
        Block block = layer.build.block(i);
        block.colour = block.colour < paints.size() ? paints[block.colour] : std::uint8_t(0);
        const Block* there = build.at(cell);
        if (there && isAlike(*there, block)) {
            out.idle.push_back(number);
            continue;
        }
        ++(there ? out.other : out.put);
        build.put(cell, block);
    }
    for (const glm::ivec3& number : layer.taken) {
        const glm::ivec3 cell = number - out.hull.first;
        if (!build.at(cell)) {
            out.idle.push_back(number);
            continue;
        }
        ++out.taken;
        build.take(cell);
    }
    out.hull = trimmed(std::move(out.hull));
    return out;
}

} // namespace zl::blocks
