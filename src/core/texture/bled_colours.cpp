#include "core/texture/bled_colours.h"

#include <algorithm>
#include <vector>

namespace zl::texture {

std::size_t bleedColours(Pixels& pixels) {
    const auto width = std::uint32_t(pixels.width), height = std::uint32_t(pixels.height);
    const std::size_t count = std::size_t(width) * height;
    std::vector<char> coloured(count);
    for (std::size_t p = 0; p < count; ++p) coloured[p] = pixels.rgba[4 * p + 3] != 0;
    std::vector<std::uint32_t> rim, next;
    const auto forNeighbours = [&](std::uint32_t p, const auto& visit) {
        const std::uint32_t x = p % width, y = p / width;
        if (x > 0) visit(p - 1);
        if (x + 1 < width) visit(p + 1);
        if (y > 0) visit(p - width);
        if (y + 1 < height) visit(p + width);
    };
    for (std::uint32_t p = 0; p < count; ++p) {
        if (!coloured[p]) continue;
        bool atEdge = false;
        forNeighbours(p, [&](std::uint32_t beside) { atEdge |= !coloured[beside]; });
        if (atEdge) rim.push_back(p);
    }
    std::size_t changed = 0;
    while (!rim.empty()) {
        next.clear();
        for (const std::uint32_t p : rim)
            forNeighbours(p, [&](std::uint32_t beside) {
                if (std::exchange(coloured[beside], 1)) return;
                const std::uint8_t* from = &pixels.rgba[std::size_t(4) * p];
                std::uint8_t* to = &pixels.rgba[std::size_t(4) * beside];
                changed += !std::equal(from, from + 3, to);
                std::copy(from, from + 3, to);
                next.push_back(beside);
            });
        rim.swap(next);
    }
    return changed;
}

} // namespace zl::texture
