#include "core/geometry/flat_outline.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::geometry {

namespace {

double turn(const glm::dvec2& a, const glm::dvec2& b, const glm::dvec2& c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

Circle through(const glm::dvec2& a, const glm::dvec2& b) {
    return {(a + b) * 0.5, glm::distance(a, b) * 0.5};
}

Circle through(const glm::dvec2& a, const glm::dvec2& b, const glm::dvec2& c) {
    const glm::dvec2 u = b - a, v = c - a;
    const double d = 2 * (u.x * v.y - u.y * v.x);
    if (d == 0) { // on a line: the two farthest apart
        Circle best = through(a, b);
        for (const Circle& circle : {through(b, c), through(a, c)})
            if (circle.radius > best.radius) best = circle;
        return best;
    }
    const double uu = glm::dot(u, u), vv = glm::dot(v, v);
    const glm::dvec2 offset((v.y * uu - u.y * vv) / d, (u.x * vv - v.x * uu) / d);
    return {a + offset, glm::length(offset)};
}

bool holds(const Circle& circle, const glm::dvec2& p) {
    return glm::distance(circle.centre, p) <= circle.radius * (1 + 1e-12) + 1e-300;
}

/// Takes out points that lie within the octagon of those farthest in eight directions, which are most (Akl
/// and Toussaint 1978).
void dropInner(std::vector<glm::dvec2>& points) {
    static constexpr glm::dvec2 ways[8] = {{1, 0},  {1, 1},   {0, 1},  {-1, 1},
                                           {-1, 0}, {-1, -1}, {0, -1}, {1, -1}};
    std::array<glm::dvec2, 8> far;
    std::array<double, 8> reach;
    reach.fill(-1e300);
    for (const glm::dvec2& p : points)
        for (std::size_t k = 0; k < 8; ++k)
            if (const double r = glm::dot(p, ways[k]); r > reach[k]) reach[k] = r, far[k] = p;
    std::vector<std::pair<glm::dvec2, glm::dvec2>> edges;
    for (std::size_t k = 0; k < 8; ++k)
        if (far[k] != far[(k + 1) % 8]) edges.emplace_back(far[k], far[(k + 1) % 8]);
    if (edges.size() < 3) return;
    const double wide = reach[0] + reach[4], deep = reach[2] + reach[6];
    const double clearly =
        1e-9 * std::max(wide, deep) * std::max(wide, deep); // rounding must not take a corner away
    std::erase_if(points, [&](const glm::dvec2& p) {
        return std::ranges::all_of(edges,
                                   [&](const auto& e) { return turn(e.first, e.second, p) > clearly; });
    });
}

} // namespace

std::vector<glm::dvec2> convexOutline(std::vector<glm::dvec2> points) {
    if (points.size() > 256) dropInner(points);
    std::ranges::sort(points,
                      [](const auto& a, const auto& b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
    points.erase(std::unique(points.begin(), points.end()), points.end());
    if (points.size() < 3) return points;
    std::vector<glm::dvec2> hull(points.size() * 2);
    std::size_t n = 0;
    const auto add = [&](const glm::dvec2& p, std::size_t floor) {
        while (n >= floor + 2 && turn(hull[n - 2], hull[n - 1], p) <= 0) --n;
        hull[n++] = p;
    };
    for (const auto& p : points) add(p, 0);
    const std::size_t lower = n - 1;
    for (auto p = points.rbegin() + 1; p != points.rend(); ++p) add(*p, lower);
    hull.resize(n - 1);
    return hull;
}

glm::dvec2 middleOf(const std::vector<glm::dvec2>& outline) {
    if (outline.empty()) return glm::dvec2(0.0);
    glm::dvec2 mean(0.0), weighted(0.0);
    for (const auto& p : outline) mean += p;
    mean /= double(outline.size());
    double area = 0;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const glm::dvec2 a = outline[i] - mean, b = outline[(i + 1) % outline.size()] - mean;
        const double cross = a.x * b.y - a.y * b.x;
        area += cross;
        weighted += (a + b) * cross;
    }
    return area > 0 ? mean + weighted / (3 * area) : mean;
}

Circle smallestCircle(const std::vector<glm::dvec2>& points) {
    const auto p = convexOutline(points); // few points, so the cubic worst case does not matter
    if (p.empty()) return {};
    Circle circle{p[0], 0};
    for (std::size_t i = 1; i < p.size(); ++i) {
        if (holds(circle, p[i])) continue;
        circle = {p[i], 0};
        for (std::size_t j = 0; j < i; ++j) {
            if (holds(circle, p[j])) continue;
            circle = through(p[i], p[j]);
            for (std::size_t k = 0; k < j; ++k)
                if (!holds(circle, p[k])) circle = through(p[i], p[j], p[k]);
        }
    }
    return circle;
}

} // namespace zl::geometry
