// DDS with all smaller levels, in blocks of 4 by 4 pixels or plain.
#include "core/texture/colour_blocks.h"
#include "core/texture/dds_blocks.h"
#include "core/texture/picture_format.h"

namespace zl::texture {

namespace {

/// How pixels are kept in a DDS that is written.
struct Layout {
    std::uint32_t fourCc;     ///< of blocks; 0 for plain pixels
    std::size_t blockBytes;   ///< of 4 by 4 pixels
    std::size_t channels = 0; ///< of blocks of one channel each; 0 for blocks of colours
};
constexpr Layout bc1{dds::code("DXT1"), 8}, bc3{dds::code("DXT5"), 16}, bc4{dds::code("ATI1"), 8, 1},
    bc5{dds::code("ATI2"), 16, 2}, plainPixels{};

void put(std::string& out, std::uint32_t value) {
    for (int k = 0; k < 4; ++k) out += static_cast<char>(value >> 8 * k);
}

void putBlocks(std::string& out, const Pixels& level, const Layout& layout) {
    if (layout.channels) return putChannelBlocks(out, level, layout.channels);
    putColourBlocks(out, level, layout.blockBytes == 16);
}

void putPlain(std::string& out, const Pixels& level, bool alpha) {
    for (std::size_t p = 0; p < level.rgba.size(); p += 4) {
        for (const std::size_t k : {2, 1, 0}) out += static_cast<char>(level.rgba[p + k]);
        if (alpha) out += static_cast<char>(level.rgba[p + 3]);
    }
}

std::string ddsWith(const Pixels& pixels, bool alpha, PixelKind kind, const Layout& layout) {
    std::vector<Pixels> levels{pixels};
    if (!alpha) // BC1 would make clear pixels black
        for (std::size_t p = 3; p < levels[0].rgba.size(); p += 4) levels[0].rgba[p] = 255;
    while (levels.back().width > 1 || levels.back().height > 1) levels.push_back(halved(levels.back(), kind));
    const auto width = std::uint32_t(pixels.width), height = std::uint32_t(pixels.height);
    const std::uint32_t pixelBytes = alpha ? 4 : 3;
    std::string out = "DDS ";
    put(out, 124);
    // Caps, height, width, format and levels; then a row's bytes, or the bytes of the largest level.
    put(out, 0x1 | 0x2 | 0x4 | 0x1000 | 0x20000 | (layout.fourCc ? 0x80000u : 0x8u));
    put(out, height), put(out, width);
    put(out, layout.fourCc ? (width + 3) / 4 * ((height + 3) / 4) * std::uint32_t(layout.blockBytes)
                           : width * pixelBytes);
    put(out, 0), put(out, std::uint32_t(levels.size()));
    for (int k = 0; k < 11; ++k) put(out, 0);
    put(out, 32);
    if (layout.fourCc) {
        put(out, dds::fourCcFlag), put(out, layout.fourCc);
        for (int k = 0; k < 5; ++k) put(out, 0);
    } else {
        put(out, alpha ? dds::rgbFlag | dds::hasAlphaFlag : dds::rgbFlag), put(out, 0),
            put(out, 8 * pixelBytes);
        put(out, 0xff0000), put(out, 0xff00), put(out, 0xff), put(out, alpha ? 0xff000000 : 0);
    }
    put(out, levels.size() > 1 ? 0x8 | 0x1000 | 0x400000 : 0x1000); // complex, texture, levels
    for (int k = 0; k < 4; ++k) put(out, 0);
    for (const Pixels& level : levels)
        layout.fourCc ? putBlocks(out, level, layout) : putPlain(out, level, alpha);
    return out;
}

} // namespace

std::string writeDds(const Pixels& pixels, bool alpha, PixelKind kind) {
    return ddsWith(pixels, alpha, kind, alpha ? bc3 : bc1);
}
std::string writeDdsBc1(const Pixels& pixels, bool alpha, PixelKind kind) {
    return ddsWith(pixels, alpha, kind, bc1);
}
std::string writeDdsBc3(const Pixels& pixels, bool alpha, PixelKind kind) {
    return ddsWith(pixels, alpha, kind, bc3);
}
std::string writeDdsBc4(const Pixels& pixels, bool, PixelKind kind) {
    return ddsWith(pixels, false, kind, bc4);
}
std::string writeDdsBc5(const Pixels& pixels, bool, PixelKind kind) {
    return ddsWith(pixels, false, kind, bc5);
}
std::string writeDdsPlain(const Pixels& pixels, bool alpha, PixelKind kind) {
    return ddsWith(pixels, alpha, kind, plainPixels);
}

} // namespace zl::texture
