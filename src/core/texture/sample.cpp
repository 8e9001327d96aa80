#include "core/texture/sample.h"

#include "core/model/finite.h"
#include "core/texture/colour_transfer.h"

namespace zl::texture {

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
    const auto texel = [&](int x, int y) {
        x = broughtInside(x, p.width, sampler.across), y = broughtInside(y, p.height, sampler.down);
        const std::uint8_t* c = &p.rgba[4 * (std::size_t(y) * p.width + x)];
        if (!linear) return glm::vec4(c[0], c[1], c[2], c[3]) / 255.0f;
        return glm::vec4(lightOf(c[0]), lightOf(c[1]), lightOf(c[2]), float(c[3]) / 255);
    };
    const float fx = uv.x * float(p.width), fy = uv.y * float(p.height);
    if (!sampler.smooth) return texel(int(std::floor(fx)), int(std::floor(fy)));
    const float x = fx - 0.5f, y = fy - 0.5f;
    const int x0 = int(std::floor(x)), y0 = int(std::floor(y));
    const float tx = x - float(x0), ty = y - float(y0);
    return glm::mix(glm::mix(texel(x0, y0), texel(x0 + 1, y0), tx),
                    glm::mix(texel(x0, y0 + 1), texel(x0 + 1, y0 + 1), tx), ty);
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
