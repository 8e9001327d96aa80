#include "core/texture/small_formats.h"

#include "core/texture/palette.h"
#include "core/texture/spread_error.h"

#include <algorithm>
#include <array>
#include <set>

namespace zl::texture {

namespace {

constexpr std::array<SmallFormatInfo, 5> formats{
    {{SmallFormat::Colour16, "colour-16", "16-bit colour", 16, 0},
     {SmallFormat::GreyAlpha8, "grey-alpha-8", "grey with alpha", 8, 0},
     {SmallFormat::Grey4, "grey-4", "16 greys", 4, 0},
     {SmallFormat::Palette256, "palette-256", "256 colours", 8, 256},
     {SmallFormat::Palette16, "palette-16", "16 colours", 4, 16}}};

/// What one of `levels` + 1 even steps is as a byte.
std::uint8_t valueOf(int step, int levels) {
    return std::uint8_t((step * 255 + levels / 2) / levels);
}

/// The nearest of them.
std::uint8_t stepped(int value, int levels) {
    return valueOf((std::clamp(value, 0, 255) * levels + 127) / 255, levels);
}

int greyLevel(const std::uint8_t* p) {
    return (54 * p[0] + 183 * p[1] + 19 * p[2] + 128) / 256; // Rec. 709
}

bool isGrey(const std::uint8_t* p) {
    return p[0] == p[1] && p[1] == p[2];
}

/// Every channel to so many steps, with what is missing of colours spread over the pixels still to come.
Pixels steppedPixels(Pixels pixels, const std::array<int, 4>& levels, bool dithered) {
    SpreadError spread(pixels.width);
    for (int y = 0; y < pixels.height; ++y, spread.nextRow())
        for (int x = 0; x < pixels.width; ++x)
            for (std::size_t k = 0; k < 4; ++k) {
                std::uint8_t& value =
                    pixels.rgba[4 * (std::size_t(y) * std::size_t(pixels.width) + std::size_t(x)) + k];
                value = dithered && k < 3 ? valueOf(spread.step(x, k, value, levels[k]), levels[k])
                                          : stepped(value, levels[k]);
            }
    return pixels;
}

} // namespace

std::span<const SmallFormatInfo> allSmallFormats() {
    return formats;
}

const SmallFormatInfo& infoOf(SmallFormat format) {
    return formats[std::size_t(format)];
}

std::size_t bytesHeld(SmallFormat format, int width, int height) {
    const SmallFormatInfo& info = infoOf(format);
    return (std::size_t(width) * std::size_t(height) * std::size_t(info.bits) + 7) / 8 +
           2 * std::size_t(info.colours);
}

Pixels asHeld(const Pixels& pixels, SmallFormat format, bool dithered) {
    constexpr std::array colour{31, 31, 31, 1};
    const SmallFormatInfo& info = infoOf(format);
    if (format == SmallFormat::Colour16) return steppedPixels(pixels, colour, dithered);
    if (info.colours > 0) {
        Palette palette =
            paletteOf(steppedPixels(pixels, {255, 255, 255, 1}, false), info.colours, dithered, true);
        for (auto& entry : palette.colours)
            for (std::size_t k = 0; k < 4; ++k) entry[k] = stepped(entry[k], colour[k]);
        Pixels out = pixels;
        for (std::size_t p = 0; p < palette.indices.size(); ++p)
            std::ranges::copy(palette.colours[palette.indices[p]], out.rgba.begin() + long(4 * p));
        return out;
    }
    Pixels grey = pixels;
    for (std::size_t p = 0; p < grey.rgba.size(); p += 4) {
        const auto level = std::uint8_t(greyLevel(&grey.rgba[p]));
        grey.rgba[p] = grey.rgba[p + 1] = grey.rgba[p + 2] = level;
        if (format == SmallFormat::Grey4) grey.rgba[p + 3] = 255;
    }
    return steppedPixels(std::move(grey), {15, 15, 15, 15}, dithered);
}

SmallFormat smallestFor(const Pixels& pixels) {
    std::set<std::array<std::uint8_t, 4>> colours;
    bool greys = true, opaque = true, words = true;
    for (std::size_t p = 0; p < pixels.rgba.size(); p += 4) {
        const std::uint8_t* c = &pixels.rgba[p];
        greys &= isGrey(c) && stepped(c[0], 15) == c[0] && stepped(c[3], 15) == c[3];
        opaque &= c[3] == 255;
        for (int k = 0; k < 3; ++k) words &= stepped(c[k], 31) == c[k];
        words &= c[3] == 0 || c[3] == 255;
        if (colours.size() <= 256) colours.insert({c[0], c[1], c[2], c[3]});
    }
    SmallFormat best = SmallFormat::Colour16;
    const auto offer = [&](SmallFormat format, bool holds) {
        if (holds &&
            bytesHeld(format, pixels.width, pixels.height) < bytesHeld(best, pixels.width, pixels.height))
            best = format;
    };
    offer(SmallFormat::Palette256, words && colours.size() <= 256);
    offer(SmallFormat::GreyAlpha8, greys);
    offer(SmallFormat::Palette16, words && colours.size() <= 16);
    offer(SmallFormat::Grey4, greys && opaque);
    return best;
}

std::uint16_t word5551(const std::uint8_t* rgba) {
    const auto five = [](std::uint8_t v) { return unsigned(v * 31 + 127) / 255; };
    return std::uint16_t(five(rgba[0]) << 11 | five(rgba[1]) << 6 | five(rgba[2]) << 1 |
                         (rgba[3] >= 128 ? 1u : 0u));
}

} // namespace zl::texture
