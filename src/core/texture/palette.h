#pragma once
#include "core/model/image.h"

#include <array>
#include <vector>

namespace zl::texture {

/// A picture as numbers into a few colours.
struct Palette {
    std::vector<std::array<std::uint8_t, 4>> colours; ///< red, green, blue, alpha
    std::vector<std::uint8_t> indices;                ///< one a pixel, the first row on top
};

/// The colours that fit a picture best, at most `most` of them (2 to 256), and which each pixel takes; with
/// `dithered` errors are spread over neighbours (libimagequant). Alpha is kept where `alpha` says so. The
/// same picture gives the same palette. Throws Error when memory does not suffice.
Palette paletteOf(const Pixels& pixels, int most, bool dithered, bool alpha);

} // namespace zl::texture
