#include "core/uv/layout_parts.h"

#include "core/uv/layout_picture.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::uv {

std::vector<LayoutPart> layoutParts(const std::vector<UvIsland>& islands, int material) {
    std::map<int, std::size_t> known;
    std::vector<LayoutPart> parts;
    for (std::uint32_t i = 0; i < islands.size(); ++i) {
        if (islands[i].material != material) continue;
        const auto [entry, fresh] = known.try_emplace(islands[i].node, parts.size());
        if (fresh) parts.push_back({islands[i].node, {}});
        parts[entry->second].islands.push_back(i);
    }
    for (LayoutPart& part : parts)
        std::ranges::stable_sort(part.islands, std::greater{},
                                 [&](std::uint32_t i) { return islands[i].uvArea; });
    return parts;
}

glm::vec2 toFirstPicture(const UvIsland& island) {
    return glm::vec2(-glm::floor(island.least + borderSlack));
}

glm::ivec2 layoutSize(const Model& model, int material, int size) {
    const glm::dvec2 pixels = glm::max(leadingPixels(model, material), 1);
    return glm::max(glm::ivec2(glm::round(pixels * (size / std::max(pixels.x, pixels.y)))), 1);
}

glm::ivec3 partColour(std::size_t i) {
    // Hues a golden angle apart, each third a little darker.
    const double hue = std::fmod(0.09 + double(i) * 0.61803398875, 1.0) * 6, light = i % 3 == 1 ? 0.72 : 0.85;
    glm::ivec3 out;
    for (int k = 0; k < 3; ++k) {
        const double at = std::fmod(hue + 2 + 4 * k, 6.0);
        const double share = std::clamp(std::min(at, 4 - at), 0.0, 1.0); // up, along and down a third each
        out[k] = int(std::lround(255 * light * (0.45 + 0.55 * share)));
    }
    return out;
}

} // namespace zl::uv
