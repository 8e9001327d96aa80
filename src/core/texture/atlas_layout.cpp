#include "core/texture/atlas_layout.h"

#include "core/texture/pack_rectangles.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace zl::texture {

namespace {

/// The tiles packed with none of more than `density` texels a metre; no size when they do not fit.
AtlasLayout packed(const std::vector<AtlasTile>& tiles, int width, int height, int padding, double density) {
    AtlasLayout out{width, height, std::vector<AtlasPlace>(tiles.size())};
    std::vector<glm::ivec2> sizes(tiles.size());
    for (std::size_t i = 0; i < tiles.size(); ++i) {
        const AtlasTile& tile = tiles[i];
        const double scale = tile.density > density ? density / tile.density : 1;
        out.places[i].width = std::max(1, int(std::lround(tile.width * scale)));
        out.places[i].height = std::max(1, int(std::lround(tile.height * scale)));
        sizes[i] = glm::ivec2(out.places[i].width, out.places[i].height) + 2 * padding;
    }
    const auto corners = packedRectangles(sizes, {width, height});
    if (!corners) return {};
    for (std::size_t i = 0; i < tiles.size(); ++i)
        out.places[i].x = (*corners)[i].x + padding, out.places[i].y = (*corners)[i].y + padding;
    return out;
}

} // namespace

AtlasLayout layOutAtlas(const std::vector<AtlasTile>& tiles, int mostEdge, int padding) {
    const int edge = int(std::bit_floor(unsigned(std::clamp(mostEdge, 1, 16384))));
    double densest = 0;
    for (const AtlasTile& tile : tiles) densest = std::max(densest, tile.density);
    for (int side = 4; side <= edge; side *= 2)
        for (const int height : {std::max(4, side / 2), side})
            if (AtlasLayout whole = packed(tiles, side, height, padding, densest); whole.width > 0)
                return whole;
    // The largest density that fits, to half a hundredth: by halves of its logarithm.
    AtlasLayout best;
    double low = std::log(std::max(densest, 1e-9)) - std::log(65536.0),
           high = std::log(std::max(densest, 1e-9));
    best = packed(tiles, edge, edge, padding, std::exp(low));
    if (best.width == 0) return best;
    while (high - low > 0.005) {
        const double middle = (low + high) / 2;
        if (AtlasLayout tried = packed(tiles, edge, edge, padding, std::exp(middle)); tried.width > 0)
            best = std::move(tried), low = middle;
        else
            high = middle;
    }
    return best;
}

} // namespace zl::texture
