#pragma once
#include "core/model/image.h"
#include "core/model/material.h"

namespace zl::texture {

/// What pixels are, and so how several are made one.
enum class PixelKind : std::uint8_t {
    Numbers, ///< each channel by itself
    Colours, ///< red, green and blue as light, taken out of sRGB's curve and put back; alpha a number
    Normals  ///< red, green and blue a direction, brought back to length 1; alpha a number
};

/// What pixels for a role are.
PixelKind pixelKindOf(PictureRole role);

/// A picture of `width` by `height` pixels (each at least 1). Along an edge that gets shorter every pixel is
/// the mean of the area that it covers, parts of pixels counted as parts; along one that gets longer pixels
/// are mixed linearly between their middles, and nothing beyond the edges comes in.
Pixels resized(const Pixels& pixels, int width, int height, PixelKind kind);

/// Half as many pixels along each side that has more than one: the next smaller level.
Pixels halved(const Pixels& pixels, PixelKind kind);

} // namespace zl::texture
