#include "core/blocks/paint.h"

#include "core/blocks/faces.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/perceived.h"

#include <deque>

namespace zl::blocks {

std::uint8_t nearestPaint(const glm::vec3& light, const std::vector<Paint>& paints) {
    std::size_t best = 0;
    float least = 1e30f;
    const glm::vec3 wanted = texture::perceived(light);
    for (std::size_t i = 0; i < paints.size() && i < 256; ++i) {
        glm::vec3 own;
        for (int k = 0; k < 3; ++k) own[k] = texture::fromSrgb(paints[i].colour[k]);
        const glm::vec3 away = texture::perceived(own) - wanted;
        if (const float off = glm::dot(away, away); off < least) least = off, best = i;
    }
    return std::uint8_t(best);
}

void paint(Build& build, const Crossed& crossed, const std::vector<Paint>& paints, bool mirrored) {
    std::vector<char> done(build.cellCount(), 0);
    std::deque<std::size_t> open;
    const auto give = [&](std::size_t at, std::uint8_t colour) {
        Block block = build.block(at);
        block.colour = colour;
        build.put(cellIn(build.size(), at), block);
        done[at] = 1;
        open.push_back(at);
    };
    for (std::size_t i = 0; i < build.cellCount(); ++i) {
        if (!build.isThere(i)) continue;
        glm::vec4 sum = crossed.colours[i];
        if (mirrored) {
            glm::ivec3 cell = cellIn(build.size(), i);
            cell.x = build.size().x - 1 - cell.x;
            sum += crossed.colours[indexIn(build.size(), cell)];
        }
        if (sum.w > 0) give(i, nearestPaint(glm::vec3(sum) / sum.w, paints));
    }
    while (!open.empty()) {
        const std::size_t at = open.front();
        open.pop_front();
        const glm::ivec3 cell = cellIn(build.size(), at);
        for (const glm::ivec3& way : sides) {
            if (!build.at(cell + way)) continue;
            const std::size_t next = indexIn(build.size(), cell + way);
            if (!done[next]) give(next, build.block(at).colour);
        }
    }
}

} // namespace zl::blocks
