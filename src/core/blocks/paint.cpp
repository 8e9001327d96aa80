#include "core/blocks/paint.h"

#include "core/blocks/faces.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/perceived.h"

#include <deque>

namespace zl::blocks {

PaintBox::PaintBox(const std::vector<Paint>& paints) {
    for (std::size_t i = 0; i < paints.size() && i < 256; ++i)
        perceived_.push_back(texture::perceived(texture::fromSrgb(paints[i].colour)));
}

std::uint8_t PaintBox::nearest(const glm::vec3& light) const {
    const glm::vec3 wanted = texture::perceived(light);
    std::size_t best = 0;
    float least = 1e30f;
    for (std::size_t i = 0; i < perceived_.size(); ++i) {
        const glm::vec3 away = perceived_[i] - wanted;
        if (const float off = glm::dot(away, away); off < least) least = off, best = i;
    }
    return std::uint8_t(best);
}

void paint(Build& build, const Crossed& crossed, const std::vector<Paint>& paints, bool mirrored) {
    const PaintBox box(paints);
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
        if (mirrored)
            sum += crossed.colours[indexIn(build.size(), imageOf(build.size(), cellIn(build.size(), i)))];
        if (sum.w > 0) give(i, box.nearest(glm::vec3(sum) / sum.w));
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
    if (!mirrored) return;
    // What lies between two paints that are as near may have got another on either side.
    for (std::size_t i = 0; i < build.cellCount(); ++i) {
        const glm::ivec3 cell = cellIn(build.size(), i), image = imageOf(build.size(), cell);
        if (image.x <= cell.x || !build.isThere(i) || !build.at(image)) continue;
        Block block = *build.at(image);
        block.colour = build.block(i).colour;
        build.put(image, block);
    }
}

} // namespace zl::blocks
