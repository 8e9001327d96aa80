#include "core/texture/pack_channels.h"

#include "core/texture/colour_transfer.h"
#include "core/texture/sample.h"

#include <tbb/parallel_for.h>

namespace zl::texture {

Pixels packedChannels(const std::array<PackedChannel, 4>& channels) {
    Pixels out{1, 1, {}};
    for (const PackedChannel& c : channels)
        if (c.from)
            out.width = std::max(out.width, c.from->width), out.height = std::max(out.height, c.from->height);
    out.rgba.resize(std::size_t(4) * out.width * out.height);
    tbb::parallel_for(0, out.height, [&](int y) {
        for (int x = 0; x < out.width; ++x) {
            std::uint8_t* target = &out.rgba[4 * (std::size_t(y) * out.width + x)];
            const glm::vec2 uv((float(x) + 0.5f) / float(out.width), (float(y) + 0.5f) / float(out.height));
            for (std::size_t k = 0; k < 4; ++k) {
                const PackedChannel& c = channels[k];
                float value = c.otherwise;
                if (c.from) {
                    const bool same = c.from->width == out.width && c.from->height == out.height;
                    const Sampler whole{Beyond::Clamp, Beyond::Clamp, !same};
                    value = channelOf(sampled(*c.from, uv, whole, false), c.channel);
                }
                target[k] = toByte(c.turnedOver ? 1 - value : value);
            }
        }
    });
    return out;
}

} // namespace zl::texture
