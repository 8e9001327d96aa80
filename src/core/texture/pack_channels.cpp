#include "core/texture/pack_channels.h"

#include "core/texture/colour_transfer.h"

#include <tbb/parallel_for.h>

#include <map>

namespace zl::texture {

namespace {

/// What each byte of a channel becomes.
std::array<std::uint8_t, 256> tableOf(const PackedChannel& channel) {
    std::array<std::uint8_t, 256> out{};
    const bool light = channel.kind == PixelKind::Colours && channel.channel != PictureChannel::Alpha;
    for (int byte = 0; byte < 256; ++byte) {
        float value = float(byte) / 255;
        if (channel.factor != 1)
            value = light ? toSrgb(std::clamp(fromSrgb(value) * channel.factor, 0.0f, 1.0f))
                          : value * channel.factor;
        out[std::size_t(byte)] = toByte(channel.turnedOver ? 1 - std::min(value, 1.0f) : value);
    }
    return out;
}

/// One channel's way from the picture that it comes from, which has the size of the one that is made.
struct Way {
    const std::uint8_t* from = nullptr; ///< null for one number everywhere
    std::size_t offset = 0;
    bool mean = false; ///< of red, green and blue
    std::array<std::uint8_t, 256> table{};
    std::uint8_t everywhere = 0;

    std::uint8_t at(std::size_t pixel) const {
        if (!from) return everywhere;
        const std::uint8_t* p = from + 4 * pixel;
        return table[mean ? std::size_t(p[0] + p[1] + p[2] + 1) / 3 : p[offset]];
    }
};

} // namespace

Pixels packedChannels(const std::array<PackedChannel, 4>& channels, glm::ivec2 size) {
    if (size == glm::ivec2(0)) {
        size = glm::ivec2(1);
        for (const PackedChannel& c : channels)
            if (c.from) size = glm::max(size, glm::ivec2(c.from->width, c.from->height));
    }
    std::map<std::pair<const Pixels*, PixelKind>, Pixels> fitted;
    std::array<Way, 4> ways;
    for (std::size_t k = 0; k < 4; ++k) {
        const PackedChannel& c = channels[k];
        Way& way = ways[k];
        way.everywhere = toByte(c.turnedOver ? 1 - c.otherwise : c.otherwise);
        if (!c.from) continue;
        const Pixels* from = c.from;
        if (from->width != size.x || from->height != size.y) {
            const auto [entry, fresh] = fitted.try_emplace({from, c.kind});
            if (fresh) entry->second = resized(*from, size.x, size.y, c.kind);
            from = &entry->second;
        }
        way.from = from->rgba.data();
        way.mean = c.channel == PictureChannel::Colour;
        way.offset = way.mean ? 0 : std::size_t(c.channel) - std::size_t(PictureChannel::Red);
        way.table = tableOf(c);
    }
    Pixels out{size.x, size.y, {}};
    const auto width = std::size_t(size.x);
    out.rgba.resize(4 * width * std::size_t(size.y));
    tbb::parallel_for(std::size_t(0), std::size_t(size.y), [&](std::size_t y) {
        for (std::size_t p = y * width; p < (y + 1) * width; ++p)
            for (std::size_t k = 0; k < 4; ++k) out.rgba[4 * p + k] = ways[k].at(p);
    });
    return out;
}

} // namespace zl::texture
