#include "core/texture/dds_blocks.h"

#include <squish.h>
#include <tbb/parallel_for.h>

#include <cstring>

namespace zl::texture {

namespace {

constexpr std::size_t half = 8; ///< of a block of BC3: its alpha

std::size_t blockCount(int width, int height) {
    return std::size_t((width + 3) / 4) * std::size_t((height + 3) / 4);
}

} // namespace

std::size_t channelBlocksSize(int width, int height, std::size_t channels) {
    return blockCount(width, height) * half * channels;
}

void putChannelBlocks(std::string& out, const Pixels& pixels, std::size_t channels) {
    const std::size_t at = out.size(), across = std::size_t(pixels.width + 3) / 4;
    out.resize(at + channelBlocksSize(pixels.width, pixels.height, channels));
    tbb::parallel_for(0, (pixels.height + 3) / 4, [&](int row) {
        const int rows = std::min(4, pixels.height - 4 * row);
        const auto width = std::size_t(pixels.width);
        const std::uint8_t* from = &pixels.rgba[16 * width * std::size_t(row)];
        std::vector<std::uint8_t> alone(4 * width * std::size_t(rows), 0);
        std::string blocks(2 * half * across, '\0');
        for (std::size_t channel = 0; channel < channels; ++channel) {
            for (std::size_t p = 0; p < alone.size(); p += 4) alone[p + 3] = from[p + channel];
            squish::CompressImage(alone.data(), pixels.width, rows, blocks.data(),
                                  squish::kDxt5 | squish::kColourRangeFit);
            for (std::size_t b = 0; b < across; ++b)
                std::memcpy(out.data() + at + half * ((across * std::size_t(row) + b) * channels + channel),
                            blocks.data() + 2 * half * b, half);
        }
    });
}

void readChannelBlocks(std::string_view data, std::size_t channels, Pixels& pixels) {
    const std::size_t count = blockCount(pixels.width, pixels.height);
    std::string blocks(2 * half * count, '\0');
    std::vector<std::uint8_t> alone(pixels.rgba.size());
    for (std::size_t channel = 0; channel < channels; ++channel) {
        for (std::size_t b = 0; b < count; ++b)
            std::memcpy(blocks.data() + 2 * half * b, data.data() + half * (b * channels + channel), half);
        squish::DecompressImage(alone.data(), pixels.width, pixels.height, blocks.data(), squish::kDxt5);
        for (std::size_t p = 0; p < alone.size(); p += 4) pixels.rgba[p + channel] = alone[p + 3];
    }
}

} // namespace zl::texture
