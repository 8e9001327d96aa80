#include "core/texture/pack_rectangles.h"

#define STB_RECT_PACK_IMPLEMENTATION
#define STBRP_STATIC
#include <stb_rect_pack.h>

namespace zl::texture {

std::optional<std::vector<glm::ivec2>> packedRectangles(const std::vector<glm::ivec2>& sizes,
                                                        glm::ivec2 into) {
    std::vector<stbrp_rect> rects(sizes.size());
    double area = 0;
    for (std::size_t i = 0; i < sizes.size(); ++i) {
        if (sizes[i].x > into.x || sizes[i].y > into.y) return std::nullopt;
        rects[i] = {int(i), stbrp_coord(sizes[i].x), stbrp_coord(sizes[i].y), 0, 0, 0};
        area += double(sizes[i].x) * double(sizes[i].y);
    }
    if (area > double(into.x) * double(into.y)) return std::nullopt;
    std::vector<stbrp_node> nodes(static_cast<std::size_t>(into.x));
    stbrp_context context;
    stbrp_init_target(&context, into.x, into.y, nodes.data(), into.x);
    stbrp_setup_heuristic(&context, STBRP_HEURISTIC_Skyline_BF_sortHeight);
    if (!stbrp_pack_rects(&context, rects.data(), int(rects.size()))) return std::nullopt;
    std::vector<glm::ivec2> corners(sizes.size());
    for (const stbrp_rect& rect : rects) corners[std::size_t(rect.id)] = {int(rect.x), int(rect.y)};
    return corners;
}

} // namespace zl::texture
