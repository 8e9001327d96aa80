#include "core/texture/atlas_layout.h"

#define STB_RECT_PACK_IMPLEMENTATION
#define STBRP_STATIC
#include <stb_rect_pack.h>

#include <algorithm>
#include <bit>
#include <cmath>

namespace zl::texture {

namespace {

/// The tiles packed with none of more than `density` texels a metre; no size when they do not fit.
AtlasLayout packed(const std::vector<AtlasTile>& tiles, int width, int height, int padding, double density) {
    AtlasLayout out{width, height, std::vector<AtlasPlace>(tiles.size())};
    std::vector<stbrp_rect> rects(tiles.size());
    double area = 0;
    for (std::size_t i = 0; i < tiles.size(); ++i) {
        const AtlasTile& tile = tiles[i];
        const double scale = tile.density > density ? density / tile.density : 1;
        out.places[i].width = std::max(1, int(std::lround(tile.width * scale)));
        out.places[i].height = std::max(1, int(std::lround(tile.height * scale)));
        if (out.places[i].width + 2 * padding > width || out.places[i].height + 2 * padding > height)
            return {};
        rects[i] = {int(i),
                    stbrp_coord(out.places[i].width + 2 * padding),
                    stbrp_coord(out.places[i].height + 2 * padding),
                    0,
                    0,
                    0};
        area += double(rects[i].w) * double(rects[i].h);
    }
    if (area > double(width) * double(height)) return {};
    std::vector<stbrp_node> nodes(static_cast<std::size_t>(width));
    stbrp_context context;
    stbrp_init_target(&context, width, height, nodes.data(), width);
    stbrp_setup_heuristic(&context, STBRP_HEURISTIC_Skyline_BF_sortHeight);
    if (!stbrp_pack_rects(&context, rects.data(), int(rects.size()))) return {};
    for (const stbrp_rect& rect : rects) {
        out.places[std::size_t(rect.id)].x = int(rect.x) + padding;
        out.places[std::size_t(rect.id)].y = int(rect.y) + padding;
    }
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
