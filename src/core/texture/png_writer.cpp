// PNG as libpng writes it: in full colour, in grey, or with a palette.
#include "core/base/error.h"
#include "core/texture/palette.h"
#include "core/texture/picture_format.h"

#include <png.h>

#include <functional>

namespace zl::texture {

namespace {

/// How rows are laid out in the file.
struct PngRows {
    int colourType, bits;
    std::size_t bytes; ///< a row
    std::function<void(int y, std::uint8_t* row)> fill;
    const Palette* palette = nullptr;
};

std::string written(const Pixels& pixels, const PngRows& rows) {
    std::string out;
    // All that owns memory is made before setjmp, which unwinds nothing.
    std::vector<std::uint8_t> row(rows.bytes);
    std::vector<png_color> colours;
    std::vector<png_byte> alphas;
    if (rows.palette)
        for (const auto& c : rows.palette->colours)
            colours.push_back({c[0], c[1], c[2]}), alphas.push_back(c[3]);
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info || setjmp(png_jmpbuf(png))) {
        png_destroy_write_struct(&png, &info);
        throw Error("a picture could not be packed", {}, "Make some memory free, then try again.");
    }
    png_set_write_fn(
        png, &out,
        [](png_structp to, png_bytep bytes, std::size_t size) {
            static_cast<std::string*>(png_get_io_ptr(to))->append(reinterpret_cast<const char*>(bytes), size);
        },
        nullptr);
    png_set_IHDR(png, info, png_uint_32(pixels.width), png_uint_32(pixels.height), rows.bits, rows.colourType,
                 PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    if (rows.palette) {
        png_set_PLTE(png, info, colours.data(), int(colours.size()));
        const bool clear = std::ranges::any_of(alphas, [](png_byte a) { return a < 255; });
        if (clear) png_set_tRNS(png, info, alphas.data(), int(alphas.size()), nullptr);
    }
    png_set_compression_level(png, 4); // half the time of 6 for a fifth more bytes
    png_write_info(png, info);
    for (int y = 0; y < pixels.height; ++y) {
        rows.fill(y, row.data());
        png_write_row(png, row.data());
    }
    png_write_end(png, info);
    png_destroy_write_struct(&png, &info);
    return out;
}

std::string inPalette(const Pixels& pixels, bool alpha, int most, bool dithered) {
    const Palette palette = paletteOf(pixels, most, dithered, alpha);
    const auto wide = std::size_t(pixels.width);
    if (most > 16)
        return written(pixels, {PNG_COLOR_TYPE_PALETTE, 8, wide,
                                [&](int y, std::uint8_t* row) {
                                    std::copy_n(&palette.indices[std::size_t(y) * wide], wide, row);
                                },
                                &palette});
    return written(pixels, {PNG_COLOR_TYPE_PALETTE, 4, (wide + 1) / 2,
                            [&](int y, std::uint8_t* row) {
                                std::fill_n(row, (wide + 1) / 2, std::uint8_t(0));
                                for (std::size_t x = 0; x < wide; ++x)
                                    row[x / 2] |= std::uint8_t(palette.indices[std::size_t(y) * wide + x]
                                                               << (x % 2 ? 0 : 4));
                            },
                            &palette});
}

/// Lightness as screens show it (Rec. 709's weights on the bytes).
std::uint8_t greyOf(const std::uint8_t* pixel) {
    return std::uint8_t((2126u * pixel[0] + 7152u * pixel[1] + 722u * pixel[2] + 5000u) / 10000u);
}

std::uint8_t toFourBits(std::uint8_t byte) {
    return std::uint8_t((byte * 15 + 127) / 255);
}

} // namespace

std::string writePng(const Pixels& pixels, bool alpha, PixelKind) {
    const std::size_t wide = std::size_t(pixels.width), each = alpha ? 4 : 3;
    return written(pixels, {alpha ? PNG_COLOR_TYPE_RGB_ALPHA : PNG_COLOR_TYPE_RGB, 8, each * wide,
                            [&](int y, std::uint8_t* row) {
                                const std::uint8_t* from = &pixels.rgba[4 * std::size_t(y) * wide];
                                for (std::size_t x = 0; x < wide; ++x)
                                    for (std::size_t k = 0; k < each; ++k)
                                        row[each * x + k] = from[4 * x + k];
                            }});
}

std::string writePng256(const Pixels& pixels, bool alpha, PixelKind) {
    return inPalette(pixels, alpha, 256, false);
}
std::string writePng256Dithered(const Pixels& pixels, bool alpha, PixelKind) {
    return inPalette(pixels, alpha, 256, true);
}
std::string writePng16(const Pixels& pixels, bool alpha, PixelKind) {
    return inPalette(pixels, alpha, 16, false);
}
std::string writePng16Dithered(const Pixels& pixels, bool alpha, PixelKind) {
    return inPalette(pixels, alpha, 16, true);
}

std::string writePngGrey(const Pixels& pixels, bool alpha, PixelKind) {
    const std::size_t wide = std::size_t(pixels.width), each = alpha ? 2 : 1;
    return written(pixels, {alpha ? PNG_COLOR_TYPE_GRAY_ALPHA : PNG_COLOR_TYPE_GRAY, 8, each * wide,
                            [&](int y, std::uint8_t* row) {
                                const std::uint8_t* from = &pixels.rgba[4 * std::size_t(y) * wide];
                                for (std::size_t x = 0; x < wide; ++x) {
                                    row[each * x] = greyOf(from + 4 * x);
                                    if (alpha) row[each * x + 1] = from[4 * x + 3];
                                }
                            }});
}

std::string writePngGrey4(const Pixels& pixels, bool alpha, PixelKind kind) {
    const std::size_t wide = std::size_t(pixels.width);
    if (alpha) { // PNG has no such depth with alpha: 16 steps of each in 8 bits
        Pixels coarse = pixels;
        for (std::size_t p = 0; p < coarse.rgba.size(); p += 4) {
            const auto grey = std::uint8_t(toFourBits(greyOf(&coarse.rgba[p])) * 17);
            for (std::size_t k = 0; k < 3; ++k) coarse.rgba[p + k] = grey;
            coarse.rgba[p + 3] = std::uint8_t(toFourBits(coarse.rgba[p + 3]) * 17);
        }
        return writePngGrey(coarse, true, kind);
    }
    return written(pixels, {PNG_COLOR_TYPE_GRAY, 4, (wide + 1) / 2, [&](int y, std::uint8_t* row) {
                                std::fill_n(row, (wide + 1) / 2, std::uint8_t(0));
                                const std::uint8_t* from = &pixels.rgba[4 * std::size_t(y) * wide];
                                for (std::size_t x = 0; x < wide; ++x)
                                    row[x / 2] |=
                                        std::uint8_t(toFourBits(greyOf(from + 4 * x)) << (x % 2 ? 0 : 4));
                            }});
}

} // namespace zl::texture
