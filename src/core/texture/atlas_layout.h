#pragma once
#include <cstddef>
#include <vector>

namespace zl::texture {

/// One tile that wants a place in an atlas.
struct AtlasTile {
    int width = 1, height = 1; ///< pixels that it has to show, at least 1
    double density = 0; ///< texels a metre that they make on the model; 0 for a patch that is never shrunk
};

struct AtlasPlace {
    int x = 0, y = 0; ///< of its first pixel, padding not counted
    int width = 1, height = 1;
};

struct AtlasLayout {
    int width = 0, height = 0; ///< powers of two; 0 when the tiles do not fit however small they are made
    std::vector<AtlasPlace> places; ///< one a tile
};

/// Lays tiles side by side, unturned, with `padding` pixels around each, into a picture whose sides are
/// powers of two of at most `mostEdge` pixels. The smallest picture that holds them whole is taken; where
/// none does, the tiles of most texels a metre are shrunk first, down to one density for all that are shrunk.
/// The rectangles are packed by stb_rect_pack (skyline, best fit).
AtlasLayout layOutAtlas(const std::vector<AtlasTile>& tiles, int mostEdge, int padding);

} // namespace zl::texture
