// DDS as its reference describes it (DDS_HEADER, DDS_PIXELFORMAT, DDS_HEADER_DXT10): the largest level of a
// flat picture, in blocks BC1 to BC3 or plain 24 and 32 bits a pixel.
#include "core/base/error.h"
#include "core/texture/halved.h"
#include "core/texture/picture_format.h"

#include <squish.h>

#include <array>
#include <bit>
#include <cstring>

namespace zl::texture {

namespace {

constexpr std::size_t headerSize = 128, extendedSize = 148;
constexpr std::uint32_t hasAlphaFlag = 0x1, fourCcFlag = 0x4, rgbFlag = 0x40;

struct Header {
    std::uint32_t width = 0, height = 0;
    int blocks = 0; ///< squish's flag; 0 for plain pixels
    std::uint32_t bits = 0;
    std::array<std::uint32_t, 4> masks{}; ///< red, green, blue, alpha
    std::size_t dataAt = headerSize;
};

std::uint32_t number(std::string_view bytes, std::size_t at) {
    std::uint32_t value = 0;
    for (std::size_t k = 0; k < 4; ++k)
        value |= std::uint32_t(static_cast<unsigned char>(bytes[at + k])) << 8 * k;
    return value;
}

constexpr std::uint32_t code(const char (&text)[5]) {
    return std::uint32_t(text[0]) | std::uint32_t(text[1]) << 8 | std::uint32_t(text[2]) << 16 |
           std::uint32_t(text[3]) << 24;
}

std::optional<Header> headerOf(std::string_view bytes) {
    if (bytes.size() < headerSize || !bytes.starts_with("DDS ") || number(bytes, 4) != 124)
        return std::nullopt;
    Header header;
    header.height = number(bytes, 12), header.width = number(bytes, 16);
    const std::uint32_t flags = number(bytes, 80), fourCc = number(bytes, 84);
    if (flags & fourCcFlag) {
        if (fourCc == code("DXT1")) header.blocks = squish::kDxt1;
        if (fourCc == code("DXT2") || fourCc == code("DXT3")) header.blocks = squish::kDxt3;
        if (fourCc == code("DXT4") || fourCc == code("DXT5")) header.blocks = squish::kDxt5;
        if (fourCc == code("DX10")) {
            if (bytes.size() < extendedSize) return std::nullopt;
            header.dataAt = extendedSize;
            const std::uint32_t format = number(bytes, headerSize); // DXGI_FORMAT
            if (format >= 70 && format <= 72) header.blocks = squish::kDxt1;
            if (format >= 73 && format <= 75) header.blocks = squish::kDxt3;
            if (format >= 76 && format <= 78) header.blocks = squish::kDxt5;
            if (format >= 27 && format <= 29)
                header.bits = 32, header.masks = {0xff, 0xff00, 0xff0000, 0xff000000};
            if (format >= 87 && format <= 91)
                header.bits = 32, header.masks = {0xff0000, 0xff00, 0xff, 0xff000000};
        }
    } else if (flags & rgbFlag) {
        header.bits = number(bytes, 88);
        for (std::size_t k = 0; k < 4; ++k) header.masks[k] = number(bytes, 92 + 4 * k);
        if (!(flags & hasAlphaFlag)) header.masks[3] = 0;
    }
    if (header.blocks == 0 && header.bits != 24 && header.bits != 32) return std::nullopt;
    return header;
}

/// One channel of a plain pixel as 8 bits; 255 for one that is not there.
std::uint8_t channelOf(std::uint32_t pixel, std::uint32_t mask) {
    if (mask == 0) return 255;
    const int shift = std::countr_zero(mask);
    const std::uint32_t most = mask >> shift;
    return std::uint8_t((std::uint64_t((pixel & mask) >> shift) * 255 + most / 2) / most);
}

void put(std::string& out, std::uint32_t value) {
    for (int k = 0; k < 4; ++k) out += static_cast<char>(value >> 8 * k);
}

} // namespace

std::optional<PictureFacts> ddsFacts(std::string_view bytes) {
    const auto header = headerOf(bytes);
    if (!header || header->width > (1u << 20) || header->height > (1u << 20)) return std::nullopt;
    const bool alpha = header->blocks ? header->blocks != squish::kDxt1 : header->masks[3] != 0;
    return PictureFacts{int(header->width), int(header->height), alpha ? 4 : 3};
}

Pixels readDds(std::string_view bytes) {
    const auto broken = [] { throw Error("is broken", {}, "Export or copy the picture again."); };
    const auto header = headerOf(bytes);
    if (!header) broken();
    Pixels pixels{int(header->width), int(header->height), {}};
    const std::size_t count = std::size_t(pixels.width) * std::size_t(pixels.height);
    const std::string_view data = bytes.substr(header->dataAt);
    const std::size_t needed =
        header->blocks
            ? std::size_t(squish::GetStorageRequirements(pixels.width, pixels.height, header->blocks))
            : count * (header->bits / 8);
    if (data.size() < needed) broken(); // before the memory for what it claims is asked for
    pixels.rgba.resize(count * 4);
    if (header->blocks) {
        squish::DecompressImage(pixels.rgba.data(), pixels.width, pixels.height, data.data(), header->blocks);
        return pixels;
    }
    const std::size_t size = header->bits / 8;
    for (std::size_t p = 0; p < count; ++p) {
        std::uint32_t pixel = 0;
        for (std::size_t k = 0; k < size; ++k)
            pixel |= std::uint32_t(static_cast<unsigned char>(data[p * size + k])) << 8 * k;
        for (std::size_t k = 0; k < 4; ++k) pixels.rgba[4 * p + k] = channelOf(pixel, header->masks[k]);
    }
    return pixels;
}

std::string writeDds(const Pixels& pixels, bool alpha) {
    const int kind = alpha ? squish::kDxt5 : squish::kDxt1;
    std::vector<Pixels> levels{pixels};
    if (!alpha) // BC1 would make clear pixels black
        for (std::size_t p = 3; p < levels[0].rgba.size(); p += 4) levels[0].rgba[p] = 255;
    while (levels.back().width > 1 || levels.back().height > 1) levels.push_back(halved(levels.back(), true));
    std::string out = "DDS ";
    put(out, 124);
    put(out,
        0x1 | 0x2 | 0x4 | 0x1000 | 0x20000 | 0x80000); // caps, height, width, format, levels, linear size
    put(out, std::uint32_t(pixels.height)), put(out, std::uint32_t(pixels.width));
    put(out, std::uint32_t(squish::GetStorageRequirements(pixels.width, pixels.height, kind)));
    put(out, 0), put(out, std::uint32_t(levels.size()));
    for (int k = 0; k < 11; ++k) put(out, 0);
    put(out, 32), put(out, fourCcFlag), put(out, alpha ? code("DXT5") : code("DXT1"));
    for (int k = 0; k < 5; ++k) put(out, 0);
    put(out, levels.size() > 1 ? 0x8 | 0x1000 | 0x400000 : 0x1000); // complex, texture, levels
    for (int k = 0; k < 4; ++k) put(out, 0);
    for (const Pixels& level : levels) {
        const std::size_t at = out.size();
        out.resize(at + std::size_t(squish::GetStorageRequirements(level.width, level.height, kind)));
        squish::CompressImage(level.rgba.data(), level.width, level.height, out.data() + at,
                              kind | squish::kColourRangeFit);
    }
    return out;
}

} // namespace zl::texture
