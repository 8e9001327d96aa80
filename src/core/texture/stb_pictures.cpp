// PNG, JPEG, BMP and TGA as stb reads and writes them.
#include "core/base/error.h"
#include "core/texture/picture_format.h"

#include <stb_image.h>
#include <stb_image_write.h>

namespace zl::texture {

namespace {

const stbi_uc* raw(std::string_view bytes) {
    return reinterpret_cast<const stbi_uc*>(bytes.data());
}

std::optional<PictureFacts> factsByStb(std::string_view bytes, bool isKind) {
    PictureFacts facts;
    if (!isKind || bytes.size() > (1u << 30) ||
        !stbi_info_from_memory(raw(bytes), static_cast<int>(bytes.size()), &facts.width, &facts.height,
                               &facts.channels))
        return std::nullopt;
    return facts;
}

void append(void* to, void* bytes, int size) {
    static_cast<std::string*>(to)->append(static_cast<const char*>(bytes), std::size_t(size));
}

/// The pixels with three channels, for writers that would write a fourth.
std::vector<std::uint8_t> withoutAlpha(const Pixels& pixels) {
    std::vector<std::uint8_t> rgb;
    rgb.reserve(pixels.rgba.size() / 4 * 3);
    for (std::size_t p = 0; p + 3 < pixels.rgba.size(); p += 4)
        rgb.insert(rgb.end(), {pixels.rgba[p], pixels.rgba[p + 1], pixels.rgba[p + 2]});
    return rgb;
}

} // namespace

std::optional<PictureFacts> jpegFacts(std::string_view bytes) {
    return factsByStb(bytes, bytes.starts_with("\xff\xd8"));
}

std::optional<PictureFacts> bmpFacts(std::string_view bytes) {
    return factsByStb(bytes, bytes.starts_with("BM"));
}

std::optional<PictureFacts> pngFacts(std::string_view bytes) {
    if (const auto facts = factsByStb(bytes, bytes.starts_with("\x89PNG"))) return facts;
    // One that is larger than can be decoded is refused for its size, and not as something unknown.
    if (!bytes.starts_with("\x89PNG\r\n\x1a\n") || bytes.size() < 26 || bytes.substr(12, 4) != "IHDR")
        return std::nullopt;
    const auto edge = [&](std::size_t at) {
        std::uint32_t value = 0;
        for (std::size_t i = 0; i < 4; ++i) value = value << 8 | static_cast<unsigned char>(bytes[at + i]);
        return int(std::min(value, 0x7fffffffu));
    };
    const int width = edge(16), height = edge(20);
    if (double(width) * height < 1e8) return std::nullopt; // it is broken in another way
    return PictureFacts{width, height, 4};
}

std::optional<PictureFacts> tgaFacts(std::string_view bytes) {
    // Truevision TGA 2.0: kind of colour map, kind of picture, bits a pixel.
    if (bytes.size() < 18) return std::nullopt;
    const auto at = [&](std::size_t i) { return static_cast<unsigned char>(bytes[i]); };
    const int kind = at(2) & ~8, bits = at(16);
    const bool plausible = at(1) <= 1 && (kind == 1 || kind == 2 || kind == 3) &&
                           (bits == 8 || bits == 15 || bits == 16 || bits == 24 || bits == 32);
    auto facts = factsByStb(bytes, plausible);
    if (facts && readsTga16(bytes)) facts->channels = 4;
    return facts;
}

Pixels readByStb(std::string_view bytes) {
    Pixels pixels;
    int channels = 0;
    stbi_uc* decoded = stbi_load_from_memory(raw(bytes), static_cast<int>(bytes.size()), &pixels.width,
                                             &pixels.height, &channels, 4);
    if (!decoded) throw Error("is broken", {}, "Export or copy the picture again.");
    pixels.rgba.assign(decoded, decoded + std::size_t(4) * pixels.width * pixels.height);
    stbi_image_free(decoded);
    return pixels;
}

Pixels readTga(std::string_view bytes) {
    if (auto pixels = readTga16(bytes)) return std::move(*pixels);
    return readByStb(bytes);
}

std::string writeJpeg(const Pixels& pixels, bool, PixelKind) {
    constexpr int quality = 92;
    std::string out;
    stbi_write_jpg_to_func(append, &out, pixels.width, pixels.height, 3, withoutAlpha(pixels).data(),
                           quality);
    return out;
}

std::string writeBmp(const Pixels& pixels, bool alpha, PixelKind) {
    std::string out;
    if (alpha)
        stbi_write_bmp_to_func(append, &out, pixels.width, pixels.height, 4, pixels.rgba.data());
    else
        stbi_write_bmp_to_func(append, &out, pixels.width, pixels.height, 3, withoutAlpha(pixels).data());
    return out;
}

std::string writeTga(const Pixels& pixels, bool alpha, PixelKind) {
    std::string out;
    if (alpha)
        stbi_write_tga_to_func(append, &out, pixels.width, pixels.height, 4, pixels.rgba.data());
    else
        stbi_write_tga_to_func(append, &out, pixels.width, pixels.height, 3, withoutAlpha(pixels).data());
    return out;
}

} // namespace zl::texture
