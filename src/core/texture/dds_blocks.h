#pragma once
#include "core/model/image.h"

#include <cstddef>
#include <span>
#include <string>
#include <string_view>

namespace zl::texture {

namespace dds {
inline constexpr std::uint32_t hasAlphaFlag = 0x1, fourCcFlag = 0x4, rgbFlag = 0x40; // DDS_PIXELFORMAT
constexpr std::uint32_t code(const char (&text)[5]) {
    return std::uint32_t(text[0]) | std::uint32_t(text[1]) << 8 | std::uint32_t(text[2]) << 16 |
           std::uint32_t(text[3]) << 24;
}
} // namespace dds

// Blocks of one channel, 8 bytes for 4 by 4 pixels: BC4, and BC5 with one for red and one for green. Each is
// what BC3 has in front of its colours for alpha, and is made and read as that by squish.

std::size_t channelBlocksSize(int width, int height, std::size_t channels);
/// Appends blocks with the first `channels` of each pixel.
void putChannelBlocks(std::string& out, const Pixels& pixels, std::size_t channels);
/// Sets the first `channels` of `pixels`, which has its size and room; `data` is large enough.
void readChannelBlocks(std::string_view data, std::size_t channels, Pixels& pixels);

} // namespace zl::texture
