#include "core/texture/sample.h"

#include "core/model/finite.h"
#include "core/texture/colour_transfer.h"

namespace zl::texture {

namespace {

int floored(float value) { // without a call, which std::floor is on old processors
    const int whole = int(value);
    return whole - (value < float(whole));
}

inline glm::vec4 valueAt(const std::uint8_t* c, bool linear) {
    if (!linear) return glm::vec4(c[0], c[1], c[2], c[3]) * (1 / 255.0f);
    return {lightOfBytes[c[0]], lightOfBytes[c[1]], lightOfBytes[c[2]], float(c[3]) * (1 / 255.0f)};
}

} // namespace

int broughtInside(int at, int size, Beyond beyond) {
    if (at >= 0 && at < size) return at;
    switch (beyond) {
    case Beyond::Clamp:
        return std::clamp(at, 0, size - 1);
    case Beyond::Mirror: {
        const int twice = 2 * size, m = (at % twice + twice) % twice;
        return m < size ? m : twice - 1 - m;
    }
    case Beyond::Repeat:
        break;
    }
    return (at % size + size) % size;
}

glm::vec4 sampled(const Pixels& p, glm::vec2 uv, const Sampler& sampler, bool linear) {
    if (!isFinite(uv)) uv = glm::vec2(0);
    // Numbers beyond what an int holds lie somewhere in the picture all the same.
    if (std::abs(uv.x) > 16384) uv.x -= std::floor(uv.x);
    if (std::abs(uv.y) > 16384) uv.y -= std::floor(uv.y);
    const auto pixel = [&](int x, int y) { return &p.rgba[4 * (std::size_t(y) * p.width + std::size_t(x))]; };
    const float fx = uv.x * float(p.width), fy = uv.y * float(p.height);
    const auto inside = [&](int x, int y) {
        return pixel(broughtInside(x, p.width, sampler.across), broughtInside(y, p.height, sampler.down));
    };
    if (!sampler.smooth) return valueAt(inside(floored(fx), floored(fy)), linear);
    const float x = fx - 0.5f, y = fy - 0.5f;
    const int x0 = floored(x), y0 = floored(y);
    const float tx = x - float(x0), ty = y - float(y0);
    const std::uint8_t* corner[4];
    if (x0 >= 0 && y0 >= 0 && x0 + 1 < p.width && y0 + 1 < p.height) { // nearly all
        corner[0] = pixel(x0, y0), corner[1] = corner[0] + 4;
        corner[2] = corner[0] + 4 * std::size_t(p.width), corner[3] = corner[2] + 4;
    } else {
        for (int k = 0; k < 4; ++k) corner[k] = inside(x0 + k % 2, y0 + k / 2);
    }
    return glm::mix(glm::mix(valueAt(corner[0], linear), valueAt(corner[1], linear), tx),
                    glm::mix(valueAt(corner[2], linear), valueAt(corner[3], linear), tx), ty);
}

float channelOf(const glm::vec4& pixel, PictureChannel channel) {
    switch (channel) {
    case PictureChannel::Red:
        return pixel.r;
    case PictureChannel::Green:
        return pixel.g;
    case PictureChannel::Blue:
        return pixel.b;
    case PictureChannel::Alpha:
        return pixel.a;
    case PictureChannel::Colour:
        break;
    }
    return (pixel.r + pixel.g + pixel.b) / 3;
}

} // namespace zl::texture
