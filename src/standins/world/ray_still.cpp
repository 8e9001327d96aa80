#include "standins/world/ray_still.h"

#include "core/geometry/ray_scene.h"
#include "core/texture/colour_transfer.h"

#include <tbb/parallel_for.h>

namespace zl::standins::world {

std::pair<glm::vec3, glm::vec3> boxAround(const Shading& shading, const std::vector<Drawn>& drawn) {
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Drawn& one : drawn)
        for (const ShadedCorner& corner : shading.items()[std::size_t(one.item)].corners) {
            const glm::vec3 at(one.pose * glm::vec4(corner.position, 1));
            low = glm::min(low, at), high = glm::max(high, at);
        }
    return {low, high};
}

Picture rayStill(const Shading& shading, const std::vector<Drawn>& drawn, const Lens& lens) {
    Mesh all;
    std::vector<std::size_t> owner; ///< of each triangle: place in `drawn`
    std::vector<std::size_t> firstOf;
    std::vector<glm::vec3> levels;
    for (const Drawn& one : drawn) {
        const ShadedItem& item = shading.items()[std::size_t(one.item)];
        firstOf.push_back(owner.size());
        levels.push_back(item.levelsFrom(lens, one.pose));
        const auto base = std::uint32_t(all.positions.size());
        for (const ShadedCorner& corner : item.corners)
            all.positions.push_back(glm::vec3(one.pose * glm::vec4(corner.position, 1)));
        for (const std::uint32_t index : item.indices) all.indices.push_back(base + index);
        owner.resize(owner.size() + item.indices.size() / 3, firstOf.size() - 1);
    }
    const geometry::RayScene scene(all);
    const glm::mat4 back = glm::inverse(lens.projection * lens.view);
    Picture out{lens.width, lens.height,
                std::vector<unsigned char>(std::size_t(4) * lens.width * lens.height, 0)};
    tbb::parallel_for(0, lens.height, [&](int y) {
        for (int x = 0; x < lens.width; ++x) {
            const glm::vec4 far = back * glm::vec4((float(x) + 0.5f) / float(lens.width) * 2 - 1,
                                                   1 - (float(y) + 0.5f) / float(lens.height) * 2, 1, 1);
            const glm::vec3 way = glm::normalize(glm::vec3(far) / far.w - lens.eye);
            const auto hit = scene.hit(lens.eye, way);
            if (!hit) continue;
            const std::size_t which = owner[hit->triangle];
            const Drawn& one = drawn[which];
            const ShadedItem& item = shading.items()[std::size_t(one.item)];
            const std::uint32_t* c = &item.indices[3 * (hit->triangle - firstOf[which])];
            const float w = 1 - hit->u - hit->v;
            const auto mixed = [&](auto ShadedCorner::*part) {
                return item.corners[c[0]].*part * w + item.corners[c[1]].*part * hit->u +
                       item.corners[c[2]].*part * hit->v;
            };
            const glm::mat3 turn(one.pose);
            const ShadedCorner at{lens.eye + way * hit->distance, turn * mixed(&ShadedCorner::normal),
                                  turn * mixed(&ShadedCorner::across), turn * mixed(&ShadedCorner::down),
                                  mixed(&ShadedCorner::uv)};
            const glm::vec4 colour = shading.lit(item, levels[which], at, lens.eye);
            unsigned char* pixel = &out.rgba[4 * (std::size_t(y) * lens.width + std::size_t(x))];
            for (int k = 0; k < 3; ++k) pixel[k] = texture::toByte(colour[k]);
            pixel[3] = 255;
        }
    });
    return out;
}

} // namespace zl::standins::world
