#include "core/geometry/polygon.h"

#include <numeric>

namespace zl::geometry {

namespace {

void fan(std::size_t count, std::vector<std::uint32_t>& out) {
    for (std::uint32_t k = 1; k + 1 < count; ++k) out.insert(out.end(), {0u, k, k + 1});
}

glm::dvec3 areaNormal(std::span<const glm::vec3> p) {
    glm::dvec3 n(0.0);
    for (std::size_t i = 0; i < p.size(); ++i) {
        const glm::dvec3 a = glm::dvec3(p[i]) - glm::dvec3(p[0]),
                         b = glm::dvec3(p[(i + 1) % p.size()]) - glm::dvec3(p[0]);
        n += glm::cross(a, b);
    }
    return n;
}

double side(const glm::dvec2& a, const glm::dvec2& b, const glm::dvec2& c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

} // namespace

void triangulate(std::span<const glm::vec3> corners, std::vector<std::uint32_t>& out) {
    const std::size_t count = corners.size();
    if (count <= 3 || count > 256) return fan(count, out); // ears cost the cube of the corners
    const glm::dvec3 normal = areaNormal(corners);
    const glm::dvec3 size = glm::abs(normal);
    if (!(glm::length(normal) > 0)) return fan(count, out);
    // Project along the largest component, keeping the orientation.
    const int drop = size.x > size.y ? (size.x > size.z ? 0 : 2) : (size.y > size.z ? 1 : 2);
    const bool mirror = normal[drop] < 0;
    std::vector<glm::dvec2> flat(count);
    for (std::size_t i = 0; i < count; ++i) {
        const glm::dvec2 p(corners[i][(drop + 1) % 3], corners[i][(drop + 2) % 3]);
        flat[i] = mirror ? glm::dvec2(p.y, p.x) : p;
    }
    std::vector<std::uint32_t> ring(count);
    std::iota(ring.begin(), ring.end(), 0u);
    const auto isEar = [&](std::size_t k) {
        const std::size_t n = ring.size();
        const glm::dvec2 a = flat[ring[(k + n - 1) % n]], b = flat[ring[k]], c = flat[ring[(k + 1) % n]];
        if (side(a, b, c) <= 0) return false;
        for (std::size_t i = 0; i < n; ++i) {
            if (i == k || i == (k + 1) % n || i == (k + n - 1) % n) continue;
            const glm::dvec2 p = flat[ring[i]];
            if (p == a || p == b || p == c) continue;
            if (side(a, b, p) >= 0 && side(b, c, p) >= 0 && side(c, a, p) >= 0) return false;
        }
        return true;
    };
    while (ring.size() > 3) {
        std::size_t ear = 0;
        while (ear < ring.size() && !isEar(ear)) ++ear;
        if (ear == ring.size()) ear = 0; // broken outline: cut anyway so that the count holds
        const std::size_t n = ring.size();
        out.insert(out.end(), {ring[(ear + n - 1) % n], ring[ear], ring[(ear + 1) % n]});
        ring.erase(ring.begin() + static_cast<std::ptrdiff_t>(ear));
    }
    out.insert(out.end(), {ring[0], ring[1], ring[2]});
}

} // namespace zl::geometry
