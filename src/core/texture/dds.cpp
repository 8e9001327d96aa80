// DDS as its reference describes it (DDS_HEADER, DDS_PIXELFORMAT, DDS_HEADER_DXT10): the largest level of a
// flat picture, in blocks BC1 to BC5 or plain 24 and 32 bits a pixel. BC4 holds red alone, which is shown
// grey; BC5 red and green, of which blue follows as that of a direction of length 1.
#include "core/base/error.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/dds_blocks.h"
#include "core/texture/picture_format.h"

#include <squish.h>

#include <array>
#include <bit>
#include <cstring>

namespace zl::texture {

namespace {

constexpr std::size_t headerSize = 128, extendedSize = 148;

struct Header {
    std::uint32_t width = 0, height = 0;
    int blocks = 0;           ///< squish's flag; 0 for others
    std::size_t channels = 0; ///< of blocks of one channel each; 0 for others
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

std::optional<Header> headerOf(std::string_view bytes) {
    if (bytes.size() < headerSize || !bytes.starts_with("DDS ") || number(bytes, 4) != 124)
        return std::nullopt;
    Header header;
    header.height = number(bytes, 12), header.width = number(bytes, 16);
    const std::uint32_t flags = number(bytes, 80), fourCc = number(bytes, 84);
    if (flags & dds::fourCcFlag) {
        if (fourCc == dds::code("DXT1")) header.blocks = squish::kDxt1;
        if (fourCc == dds::code("DXT2") || fourCc == dds::code("DXT3")) header.blocks = squish::kDxt3;
        if (fourCc == dds::code("DXT4") || fourCc == dds::code("DXT5")) header.blocks = squish::kDxt5;
        if (fourCc == dds::code("ATI1") || fourCc == dds::code("BC4U")) header.channels = 1;
        if (fourCc == dds::code("ATI2") || fourCc == dds::code("BC5U")) header.channels = 2;
        if (fourCc == dds::code("DX10")) {
            if (bytes.size() < extendedSize) return std::nullopt;
            header.dataAt = extendedSize;
            const std::uint32_t format = number(bytes, headerSize); // DXGI_FORMAT
            if (format >= 70 && format <= 72) header.blocks = squish::kDxt1;
            if (format >= 73 && format <= 75) header.blocks = squish::kDxt3;
            if (format >= 76 && format <= 78) header.blocks = squish::kDxt5;
            if (format >= 79 && format <= 80) header.channels = 1;
            if (format >= 82 && format <= 83) header.channels = 2;
            if (format >= 27 && format <= 29)
                header.bits = 32, header.masks = {0xff, 0xff00, 0xff0000, 0xff000000};
            if (format >= 87 && format <= 91)
                header.bits = 32, header.masks = {0xff0000, 0xff00, 0xff, 0xff000000};
        }
    } else if (flags & dds::rgbFlag) {
        header.bits = number(bytes, 88);
        for (std::size_t k = 0; k < 4; ++k) header.masks[k] = number(bytes, 92 + 4 * k);
        if (!(flags & dds::hasAlphaFlag)) header.masks[3] = 0;
    }
    if (header.blocks == 0 && header.channels == 0 && header.bits != 24 && header.bits != 32)
        return std::nullopt;
    return header;
}

/// One channel of a plain pixel as 8 bits; 255 for one that is not there.
std::uint8_t channelOf(std::uint32_t pixel, std::uint32_t mask) {
    if (mask == 0) return 255;
    const int shift = std::countr_zero(mask);
    const std::uint32_t most = mask >> shift;
    return std::uint8_t((std::uint64_t((pixel & mask) >> shift) * 255 + most / 2) / most);
}

/// What blocks of one or two channels leave open.
void fillFromChannels(Pixels& pixels, std::size_t channels) {
    for (std::size_t p = 0; p < pixels.rgba.size(); p += 4) {
        std::uint8_t* c = &pixels.rgba[p];
        if (channels == 1) {
            c[1] = c[2] = c[0];
        } else {
            const float x = float(c[0]) / 127.5f - 1, y = float(c[1]) / 127.5f - 1;
            c[2] = toByte(std::sqrt(std::max(0.0f, 1 - x * x - y * y)) * 0.5f + 0.5f);
        }
        c[3] = 255;
    }
}

} // namespace

std::optional<PictureFacts> ddsFacts(std::string_view bytes) {
    const auto header = headerOf(bytes);
    if (!header || header->width > (1u << 20) || header->height > (1u << 20)) return std::nullopt;
    const bool alpha = header->blocks ? header->blocks != squish::kDxt1 : header->masks[3] != 0;
    return PictureFacts{int(header->width), int(header->height), header->channels == 1 ? 1 : alpha ? 4 : 3};
}

Pixels readDds(std::string_view bytes) {
    const auto broken = [] { throw Error("is broken", {}, "Export or copy the picture again."); };
    const auto header = headerOf(bytes);
    if (!header) broken();
    Pixels pixels{int(header->width), int(header->height), {}};
    const std::size_t count = std::size_t(pixels.width) * std::size_t(pixels.height);
    const std::string_view data = bytes.substr(header->dataAt);
    const std::size_t needed =
        header->channels ? channelBlocksSize(pixels.width, pixels.height, header->channels)
        : header->blocks
            ? std::size_t(squish::GetStorageRequirements(pixels.width, pixels.height, header->blocks))
            : count * (header->bits / 8);
    if (data.size() < needed) broken(); // before the memory for what it claims is asked for
    pixels.rgba.resize(count * 4);
    if (header->blocks) {
        squish::DecompressImage(pixels.rgba.data(), pixels.width, pixels.height, data.data(), header->blocks);
        return pixels;
    }
    if (header->channels) {
        readChannelBlocks(data, header->channels, pixels);
        fillFromChannels(pixels, header->channels);
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

} // namespace zl::texture
