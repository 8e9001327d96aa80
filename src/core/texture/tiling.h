#pragma once
#include "core/texture/resized.h"

namespace zl::texture {

/// How a picture goes on where it meets itself, in 255ths: the mean difference between the pixels on both
/// sides of the border, and the most that neighbouring columns or rows within the picture differ by: a stripe
/// that ends at the border is no seam where stripes end within, too.
struct BorderStep {
    double border = 0;
    double usual = 0;

    /// How much more differs at the border than anywhere within: at 0 nobody sees where the picture ends.
    double seam() const { return border > usual ? border - usual : 0; }
};

struct Tiling {
    BorderStep across; ///< its right edge against its left
    BorderStep down;   ///< its lower edge against its upper

    double seam() const { return std::max(across.seam(), down.seam()); }
};

/// A seam from which on it is seen.
inline constexpr double visibleSeam = 6;

/// Measures red, green and blue, and alpha where it is not one value.
Tiling tilingOf(const Pixels& pixels);

/// The picture made to tile along the axes that are wanted: within `band` of each border (a share of the
/// edge, up to 0.5) it goes over into itself, moved by half an edge. Colours are mixed as light, directions
/// brought back to length 1.
Pixels madeToTile(const Pixels& pixels, bool across, bool down, double band, PixelKind kind);

} // namespace zl::texture
