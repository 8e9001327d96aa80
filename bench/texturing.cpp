#include "measure.h"

#include "core/texture/pack_channels.h"
#include "core/texture/picture_format.h"

#include <squish.h>
#include <stb/stb_image_resize.h>

#include <cmath>

using namespace zl;
using texture::PixelKind;

namespace bench {

namespace {

/// Waves of several lengths: neither noise, which no block can hold, nor flat.
Pixels waves(int edge) {
    Pixels out{edge, edge, std::vector<std::uint8_t>(std::size_t(4) * std::size_t(edge) * std::size_t(edge))};
    for (int y = 0; y < edge; ++y)
        for (int x = 0; x < edge; ++x) {
            std::uint8_t* p =
                &out.rgba[std::size_t(4) * (std::size_t(y) * std::size_t(edge) + std::size_t(x))];
            p[0] = std::uint8_t((x * 7 + y * 3) & 255), p[1] = std::uint8_t((x * x + y) >> 6 & 255);
            p[2] = std::uint8_t((x ^ y) & 255), p[3] = 255;
        }
    return out;
}

} // namespace

void texturingRows() {
    const Pixels large = waves(8192), middle = waves(4096);
    std::vector<std::uint8_t> shrunk(std::size_t(4) * 2048 * 2048);
    const double peer = middleSeconds([&] {
        stbir_resize_uint8_generic(large.rgba.data(), 8192, 8192, 0, shrunk.data(), 2048, 2048, 0, 4, 3, 0,
                                   STBIR_EDGE_CLAMP, STBIR_FILTER_BOX, STBIR_COLORSPACE_SRGB, nullptr);
        benchmark::DoNotOptimize(shrunk.data());
    });
    timeRow("picture of 8192² → 2048², as light", middleSeconds([&] {
                benchmark::DoNotOptimize(texture::resized(large, 2048, 2048, PixelKind::Colours));
            }),
            "stb_image_resize, box", peer, "0.8 s");
    const texture::PackedChannel red{&middle, PictureChannel::Red},
        turned{&middle, PictureChannel::Green, true};
    timeRow("three pictures of 4096² packed of four channels each", middleSeconds([&] {
                for (int k = 0; k < 3; ++k)
                    benchmark::DoNotOptimize(texture::packedChannels({red, turned, red, turned}));
            }),
            "stb_image_resize, 8192² → 2048²", peer, "1.5 s");
    const Pixels small = waves(1024);
    for (const bool alpha : {false, true}) {
        const int kind = alpha ? squish::kDxt5 : squish::kDxt1;
        std::string blocks(std::size_t(squish::GetStorageRequirements(1024, 1024, kind)), '\0');
        timeRow(alpha ? "1024² in BC3, all levels" : "1024² in BC1, all levels", middleSeconds([&] {
                    benchmark::DoNotOptimize(alpha ? texture::writeDdsBc3(small, true)
                                                   : texture::writeDdsBc1(small, false));
                }),
                "squish's best, one level", middleSeconds([&] {
                    squish::CompressImage(small.rgba.data(), 1024, 1024, blocks.data(),
                                          kind | squish::kColourIterativeClusterFit);
                }),
                "within 0.6×");
    }
}

} // namespace bench
