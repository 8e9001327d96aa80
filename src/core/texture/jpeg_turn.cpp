#include "core/texture/jpeg_turn.h"

#include <cstdint>
#include <cstring>
#include <optional>

namespace zl::texture {

namespace {

/// Numbers of a TIFF block, in its own order of bytes; nothing beyond its end.
class Tiff {
public:
    explicit Tiff(std::string_view bytes) : bytes_(bytes), big_(bytes.starts_with("MM")) {}
    std::optional<std::uint32_t> number(std::size_t at, int size) const {
        if (at > bytes_.size() || bytes_.size() - at < std::size_t(size)) return std::nullopt;
        std::uint32_t value = 0;
        for (int i = 0; i < size; ++i) {
            const auto byte = static_cast<unsigned char>(bytes_[at + std::size_t(big_ ? i : size - 1 - i)]);
            value = value << 8 | byte;
        }
        return value;
    }

private:
    std::string_view bytes_;
    bool big_;
};

int turnIn(std::string_view block) {
    constexpr std::uint32_t orientation = 0x0112;
    const Tiff tiff(block);
    const auto first = tiff.number(4, 4);
    const auto count = first ? tiff.number(*first, 2) : std::nullopt;
    if (!count) return 1;
    for (std::uint32_t i = 0; i < *count; ++i) {
        const std::size_t entry = std::size_t(*first) + 2 + 12 * std::size_t(i);
        const auto tag = tiff.number(entry, 2);
        if (!tag) return 1;
        if (*tag != orientation) continue;
        const auto value = tiff.number(entry + 8, 2);
        return value && *value >= 1 && *value <= 8 ? int(*value) : 1;
    }
    return 1;
}

} // namespace

int jpegTurn(std::string_view bytes) {
    const auto byte = [&](std::size_t at) { return static_cast<unsigned char>(bytes[at]); };
    // Segments of a marker and a length follow each other until the picture begins.
    for (std::size_t at = 2; at + 4 <= bytes.size() && byte(at) == 0xff;) {
        const unsigned marker = byte(at + 1);
        const std::size_t length = std::size_t(byte(at + 2)) << 8 | byte(at + 3);
        if (marker == 0xda || length < 2 || at + 2 + length > bytes.size()) return 1;
        const std::string_view body = bytes.substr(at + 4, length - 2);
        if (marker == 0xe1 && body.starts_with(std::string_view("Exif\0\0", 6)))
            return turnIn(body.substr(6));
        at += 2 + length;
    }
    return 1;
}

Pixels shownTurned(const Pixels& pixels, int turn) {
    if (turn <= 1) return pixels;
    const int w = pixels.width, h = pixels.height;
    const bool lying = turn >= 5; // rows become columns
    Pixels out{lying ? h : w, lying ? w : h, std::vector<std::uint8_t>(pixels.rgba.size())};
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            // Row 0 and column 0 of the file are shown at: 2 top right, 3 bottom right, 4 bottom left, 5 left
            // top, 6 right top, 7 right bottom, 8 left bottom.
            const int a = lying ? y : x, b = lying ? x : y; // along the file's rows, and down them
            const bool fromRight = turn == 2 || turn == 3 || turn == 7 || turn == 8;
            const bool fromBelow = turn == 3 || turn == 4 || turn == 6 || turn == 7;
            const std::size_t from = std::size_t(fromBelow ? h - 1 - b : b) * std::size_t(w) +
                                     std::size_t(fromRight ? w - 1 - a : a);
            std::memcpy(&out.rgba[4 * (std::size_t(y) * std::size_t(out.width) + std::size_t(x))],
                        &pixels.rgba[4 * from], 4);
        }
    return out;
}

} // namespace zl::texture
