#include "core/texture/halved.h"

#include "core/texture/colour_transfer.h"

#include <tbb/parallel_for.h>

namespace zl::texture {

Pixels halved(const Pixels& pixels, bool colours) {
    Pixels out{std::max(1, pixels.width / 2), std::max(1, pixels.height / 2), {}};
    out.rgba.resize(std::size_t(4) * out.width * out.height);
    tbb::parallel_for(0, out.height, [&](int y) {
        const int y0 = y * pixels.height / out.height, y1 = (y + 1) * pixels.height / out.height;
        for (int x = 0; x < out.width; ++x) {
            const int x0 = x * pixels.width / out.width, x1 = (x + 1) * pixels.width / out.width;
            float sum[4] = {};
            for (int from = y0; from < y1; ++from)
                for (int at = x0; at < x1; ++at) {
                    const std::uint8_t* c = &pixels.rgba[4 * (std::size_t(from) * pixels.width + at)];
                    for (int k = 0; k < 4; ++k)
                        sum[k] += colours && k < 3 ? lightOf(c[k]) : float(c[k]) / 255;
                }
            const auto count = float((y1 - y0) * (x1 - x0));
            std::uint8_t* target = &out.rgba[4 * (std::size_t(y) * out.width + x)];
            for (int k = 0; k < 4; ++k)
                target[k] = colours && k < 3 ? toSrgbByte(sum[k] / count) : toByte(sum[k] / count);
        }
    });
    return out;
}

} // namespace zl::texture
