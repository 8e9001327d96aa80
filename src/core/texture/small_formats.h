#pragma once
#include "core/model/image.h"

#include <span>
#include <string_view>

namespace zl::texture {

/// How machines with little memory hold pictures.
enum class SmallFormat { Colour16, GreyAlpha8, Grey4, Palette256, Palette16 };

struct SmallFormatInfo {
    SmallFormat format;
    std::string_view id;   ///< "palette-16"
    std::string_view name; ///< "16 colours"
    int bits;              ///< a pixel
    int colours;           ///< of its palette, each of 16 bits; 0 without one
};
/// All of them: 5-5-5-1 colour; grey and alpha of 4 bits each; grey of 4 bits; palettes of such colours.
std::span<const SmallFormatInfo> allSmallFormats();
const SmallFormatInfo& infoOf(SmallFormat format);

/// What a picture takes in it, palette included.
std::size_t bytesHeld(SmallFormat format, int width, int height);

/// The picture as such a machine shows it, still 8 bits a channel; with `dithered` errors are spread over
/// neighbours (palettes: by libimagequant; else Floyd & Steinberg 1976). Alpha is 0 or 255 but in GreyAlpha8.
/// Throws Error when memory does not suffice.
Pixels asHeld(const Pixels& pixels, SmallFormat format, bool dithered);

/// The format of the fewest bytes that holds a picture as it is; Colour16 where none does.
SmallFormat smallestFor(const Pixels& pixels);

/// The pixels as 5-5-5-1 words, red highest, alpha lowest.
std::uint16_t word5551(const std::uint8_t* rgba);

} // namespace zl::texture
