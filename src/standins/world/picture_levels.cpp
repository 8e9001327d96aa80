#include "standins/world/picture_levels.h"

#include "core/texture/colour_transfer.h"

#include <algorithm>
#include <cmath>

namespace zl::standins::world {

namespace {

Picture halved(const Picture& from, bool colours) {
    Picture out{std::max(1, from.width / 2), std::max(1, from.height / 2), {}};
    out.rgba.resize(std::size_t(4) * out.width * out.height);
    const int across = from.width > 1 ? 2 : 1, down = from.height > 1 ? 2 : 1;
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x)
            for (int k = 0; k < 4; ++k) {
                float sum = 0;
                for (int j = 0; j < down; ++j)
                    for (int i = 0; i < across; ++i) {
                        const auto byte = from.rgba[4 * (std::size_t(y * down + j) * from.width +
                                                         std::size_t(x * across + i)) +
                                                    std::size_t(k)];
                        sum += colours && k < 3 ? texture::lightOf(byte) : float(byte) / 255;
                    }
                sum /= float(across * down);
                out.rgba[4 * (std::size_t(y) * out.width + x) + std::size_t(k)] =
                    colours && k < 3 ? texture::toSrgbByte(sum) : texture::toByte(sum);
            }
    return out;
}

int repeated(int at, int size) {
    const int rest = at % size;
    return rest < 0 ? rest + size : rest;
}

glm::vec4 between(const Picture& picture, glm::vec2 uv) {
    const glm::vec2 at((uv.x - std::floor(uv.x)) * float(picture.width) - 0.5f,
                       (uv.y - std::floor(uv.y)) * float(picture.height) - 0.5f);
    const glm::vec2 first(std::floor(at.x), std::floor(at.y)), share = at - first;
    const auto pixel = [&](int dx, int dy) {
        const int x = repeated(int(first.x) + dx, picture.width),
                  y = repeated(int(first.y) + dy, picture.height);
        const unsigned char* p = &picture.rgba[4 * (std::size_t(y) * picture.width + std::size_t(x))];
        return glm::vec4(p[0], p[1], p[2], p[3]) / 255.0f;
    };
    return glm::mix(glm::mix(pixel(0, 0), pixel(1, 0), share.x), glm::mix(pixel(0, 1), pixel(1, 1), share.x),
                    share.y);
}

} // namespace

PictureLevels levelsOf(Picture picture, bool colours) {
    PictureLevels out;
    if (picture.width < 1 || picture.height < 1) return out;
    out.pictures.push_back(std::move(picture));
    while (out.pictures.back().width > 1 || out.pictures.back().height > 1)
        out.pictures.push_back(halved(out.pictures.back(), colours));
    return out;
}

std::size_t bytesOf(const PictureLevels& levels) {
    std::size_t sum = 0;
    for (const Picture& picture : levels.pictures) sum += picture.rgba.size();
    return sum;
}

glm::vec4 sampledAt(const PictureLevels& levels, glm::vec2 uv, float level) {
    if (levels.pictures.empty() || !std::isfinite(uv.x + uv.y)) return glm::vec4(0);
    const float last = float(levels.pictures.size() - 1), at = std::clamp(level, 0.0f, last);
    const auto lower = std::size_t(at);
    const glm::vec4 near = between(levels.pictures[lower], uv);
    if (at == float(lower)) return near;
    return glm::mix(near, between(levels.pictures[lower + 1], uv), at - float(lower));
}

} // namespace zl::standins::world
