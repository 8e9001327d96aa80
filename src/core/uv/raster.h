#pragma once
#include <glm/glm.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

namespace zl::uv {

/// A window of pixels: columns and rows from `least` up to, but without, `most`.
struct PixelWindow {
    glm::ivec2 least{0}, most{0};
};

/// Calls `visit(row, first, last)` for the pixels of each row, `first` up to but without `last`, whose
/// middles lie in a triangle given in pixels, within `window`. Of triangles that share an edge exactly one
/// gets a middle that lies on it, whichever way they turn, so neighbours neither overlap nor leave a gap: the
/// top-left rule on edges in fixed point (Pineda 1988; 1/256 of a pixel). Corners beyond a million pixels are
/// not drawn.
template <class Visit>
void forEachRow(std::array<glm::dvec2, 3> corners, const PixelWindow& window, const Visit& visit) {
    constexpr std::int64_t one = 256;
    std::array<std::int64_t, 3> x{}, y{};
    for (std::size_t k = 0; k < 3; ++k) {
        if (!(std::abs(corners[k].x) < 1e6) || !(std::abs(corners[k].y) < 1e6)) return;
        x[k] = std::llround(corners[k].x * double(one)), y[k] = std::llround(corners[k].y * double(one));
    }
    const std::int64_t area = (x[1] - x[0]) * (y[2] - y[0]) - (y[1] - y[0]) * (x[2] - x[0]);
    if (area == 0) return;
    if (area < 0) std::swap(x[1], x[2]), std::swap(y[1], y[2]);
    const auto floorOf = [](std::int64_t a, std::int64_t b) { // of a / b, b above 0
        return a >= 0 ? a / b : -((-a + b - 1) / b);
    };
    const auto [low, high] = std::minmax({y[0], y[1], y[2]});
    const auto [left, right] = std::minmax({x[0], x[1], x[2]});
    const std::int64_t firstRow = std::max<std::int64_t>(window.least.y, floorOf(low, one)),
                       lastRow = std::min<std::int64_t>(window.most.y, floorOf(high, one) + 1);
    for (std::int64_t row = firstRow; row < lastRow; ++row) {
        std::int64_t from = std::max<std::int64_t>(window.least.x, floorOf(left, one)),
                     to = std::min<std::int64_t>(window.most.x, floorOf(right, one) + 1);
        const std::int64_t middle = row * one + one / 2;
        for (std::size_t k = 0; k < 3 && from < to; ++k) {
            const std::size_t n = (k + 1) % 3;
            const std::int64_t dx = x[n] - x[k], dy = y[n] - y[k];
            // Inside where dx * (py - y) - dy * (px - x) is above 0, or 0 on a top or left edge.
            const std::int64_t bias = dy < 0 || (dy == 0 && dx > 0) ? 0 : 1;
            const std::int64_t rest = dx * (middle - y[k]) + dy * x[k] - bias; // - dy * px must be >= -rest
            if (dy > 0)
                to = std::min(to, floorOf(floorOf(rest, dy) - one / 2, one) + 1);
            else if (dy < 0)
                from = std::max(from, -floorOf(floorOf(rest, -dy) + one / 2, one));
            else if (rest < 0)
                to = from;
        }
        if (from < to) visit(int(row), int(from), int(to));
    }
}

/// Weights of a triangle's corners at a point, of sum 1; those at its middle for one without an area.
inline glm::dvec3 weightsAt(const std::array<glm::dvec2, 3>& corners, glm::dvec2 at) {
    const glm::dvec2 b = corners[1] - corners[0], c = corners[2] - corners[0], p = at - corners[0];
    const double area = b.x * c.y - b.y * c.x;
    if (area == 0) return glm::dvec3(1.0 / 3);
    const double v = (p.x * c.y - p.y * c.x) / area, w = (b.x * p.y - b.y * p.x) / area;
    return {1 - v - w, v, w};
}

} // namespace zl::uv
