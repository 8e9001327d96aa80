#include "core/texture/tiling.h"

#include "core/texture/pixel_values.h"

#include <tbb/parallel_for.h>

#include <cmath>

namespace zl::texture {

namespace {

/// Mean difference between the pixels at `a` and at `b` of every line: columns, or rows with `rows`.
double stepBetween(const Pixels& pixels, int a, int b, bool rows) {
    const int count = rows ? pixels.width : pixels.height;
    double sum = 0;
    for (int i = 0; i < count; ++i) {
        const auto at = [&](int place) {
            const int x = rows ? i : place, y = rows ? place : i;
            return &pixels.rgba[4 * (std::size_t(y) * std::size_t(pixels.width) + std::size_t(x))];
        };
        const std::uint8_t *first = at(a), *second = at(b);
        for (int k = 0; k < 4; ++k) sum += std::abs(int(first[k]) - int(second[k]));
    }
    return sum / (3.0 * count);
}

BorderStep borderStep(const Pixels& pixels, bool rows) {
    const int edge = rows ? pixels.height : pixels.width;
    if (edge < 2) return {};
    BorderStep step;
    step.border = stepBetween(pixels, edge - 1, 0, rows);
    std::vector<double> within(std::size_t(edge - 1));
    tbb::parallel_for(0, edge - 1,
                      [&](int i) { within[std::size_t(i)] = stepBetween(pixels, i, i + 1, rows); });
    step.usual = *std::ranges::max_element(within);
    return step;
}

/// How much of the picture itself is left at a place along an edge; the rest is what lies half an edge on.
float ownShare(int at, int edge, double band) {
    const double border = std::min(at + 0.5, edge - at - 0.5) / edge;
    const double t = std::clamp(border / band, 0.0, 1.0);
    return float(t * t * (3 - 2 * t));
}

Pixels goingOver(const Pixels& pixels, bool rows, double band, PixelKind kind) {
    Pixels out{pixels.width, pixels.height, std::vector<std::uint8_t>(pixels.rgba.size())};
    const int edge = rows ? pixels.height : pixels.width;
    tbb::parallel_for(0, pixels.height, [&](int y) {
        for (int x = 0; x < pixels.width; ++x) {
            const int along = rows ? y : x, other = (along + edge / 2) % edge;
            const auto at = [&](int place) {
                return 4 * (std::size_t(rows ? place : y) * std::size_t(pixels.width) +
                            std::size_t(rows ? x : place));
            };
            const float own = ownShare(along, edge, band);
            const glm::vec4 mixed =
                glm::mix(valueOf(&pixels.rgba[at(other)], kind), valueOf(&pixels.rgba[at(along)], kind), own);
            putValue(&out.rgba[at(along)], mixed, kind);
        }
    });
    return out;
}

} // namespace

Tiling tilingOf(const Pixels& pixels) {
    return {borderStep(pixels, false), borderStep(pixels, true)};
}

Pixels madeToTile(const Pixels& pixels, bool across, bool down, double band, PixelKind kind) {
    Pixels out = pixels;
    if (across && out.width > 1) out = goingOver(out, false, band, kind);
    if (down && out.height > 1) out = goingOver(out, true, band, kind);
    return out;
}

} // namespace zl::texture
