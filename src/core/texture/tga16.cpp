// TGA with 16 bits a pixel: five each of red, green and blue, and one that says whether the pixel is seen
// (Truevision TGA file format 2.0, image type 2).
#include "core/texture/picture_format.h"
#include "core/texture/spread_error.h"

namespace zl::texture {

namespace {

std::string in16Bits(const Pixels& pixels, bool alpha, bool dithered) {
    std::string out(18, '\0');
    out[2] = 2;
    for (std::size_t k = 0; k < 2; ++k) {
        out[12 + k] = char(pixels.width >> (8 * k) & 255);
        out[14 + k] = char(pixels.height >> (8 * k) & 255);
    }
    out[16] = 16;
    out[17] = char(32 | (alpha ? 1 : 0)); // the first row on top
    SpreadError spread(pixels.width);
    for (int y = 0; y < pixels.height; ++y, spread.nextRow())
        for (int x = 0; x < pixels.width; ++x) {
            const std::uint8_t* p =
                &pixels.rgba[4 * (std::size_t(y) * std::size_t(pixels.width) + std::size_t(x))];
            unsigned bits = !alpha || p[3] >= 128 ? 0x8000u : 0u;
            for (std::size_t k = 0; k < 3; ++k) {
                const int five = dithered ? spread.step(x, k, p[k], 31) : (p[k] * 31 + 127) / 255;
                bits |= unsigned(five) << (10 - 5 * k);
            }
            out += char(bits & 255), out += char(bits >> 8);
        }
    return out;
}

} // namespace

bool readsTga16(std::string_view bytes) {
    const auto at = [&](std::size_t i) { return static_cast<unsigned char>(bytes[i]); };
    return bytes.size() >= 18 && at(1) == 0 && at(2) == 2 && at(16) == 16 && (at(17) & 0x1f) == 1;
}

std::optional<Pixels> readTga16(std::string_view bytes) {
    if (!readsTga16(bytes)) return std::nullopt;
    const auto at = [&](std::size_t i) { return static_cast<unsigned char>(bytes[i]); };
    Pixels out{at(12) | at(13) << 8, at(14) | at(15) << 8, {}};
    const std::size_t count = std::size_t(out.width) * std::size_t(out.height),
                      first = 18 + std::size_t(at(0));
    if (count == 0 || bytes.size() < first || (bytes.size() - first) / 2 < count) return std::nullopt;
    out.rgba.resize(4 * count);
    const bool fromTop = at(17) & 32;
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t row = i / std::size_t(out.width);
        const std::size_t to = (fromTop ? row : std::size_t(out.height) - 1 - row) * std::size_t(out.width) +
                               i % std::size_t(out.width);
        const unsigned bits = at(first + 2 * i) | unsigned(at(first + 2 * i + 1)) << 8;
        for (std::size_t k = 0; k < 3; ++k)
            out.rgba[4 * to + k] = std::uint8_t(((bits >> (10 - 5 * k) & 31) * 255 + 15) / 31);
        out.rgba[4 * to + 3] = bits & 0x8000 ? 255 : 0;
    }
    return out;
}

std::string writeTga16(const Pixels& pixels, bool alpha, PixelKind) {
    return in16Bits(pixels, alpha, false);
}
std::string writeTga16Dithered(const Pixels& pixels, bool alpha, PixelKind) {
    return in16Bits(pixels, alpha, true);
}

} // namespace zl::texture
