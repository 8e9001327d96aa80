#include "app/view/floor_shadow.h"

#include <algorithm>
#include <cmath>

namespace zl::app {

namespace {

/// Means over a row and its neighbours, thrice: near a Gaussian (Wells 1986).
void blur(std::vector<float>& map, int edge, int reach) {
    std::vector<float> line(static_cast<std::size_t>(edge));
    for (int pass = 0; pass < 6; ++pass)
        for (int row = 0; row < edge; ++row) {
            const auto at = [&](int i) -> float& {
                return pass % 2 ? map[std::size_t(i) * std::size_t(edge) + std::size_t(row)]
                                : map[std::size_t(row) * std::size_t(edge) + std::size_t(i)];
            };
            float sum = 0;
            for (int i = -reach; i < edge; ++i) {
                if (i + reach < edge) sum += at(i + reach);
                if (i - reach - 1 >= 0) sum -= at(i - reach - 1);
                if (i >= 0) line[std::size_t(i)] = sum / float(2 * reach + 1);
            }
            for (int i = 0; i < edge; ++i) at(i) = line[std::size_t(i)];
        }
}

} // namespace

FloorShadow floorShadowOf(const Mesh& mesh, const geometry::Bounds& bounds, std::size_t most) {
    FloorShadow out;
    if (bounds.empty() || bounds.max.y < 0) return out;
    constexpr int edge = 144;
    const glm::dvec3 size = bounds.size();
    const double wide = std::max({size.x, size.z, 0.05 * size.y}), margin = 0.35 * wide;
    const glm::dvec2 middle(bounds.centre().x, bounds.centre().z);
    out.edge = edge;
    out.least = middle - (0.5 * wide + margin), out.most = middle + (0.5 * wide + margin);
    const double pixel = (out.most.x - out.least.x) / edge;
    // Two heights: what touches the floor is dark and sharp, the rest faint and wide.
    const double low = 0.06 * std::max(wide, size.y), high = 0.5 * std::max(wide, size.y);
    std::vector<float> near(std::size_t(edge) * edge, 0), far = near;
    const auto mark = [&](const glm::vec3& p) {
        if (p.y < -0.02 * wide) return;
        const int x = int((p.x - out.least.x) / pixel), z = int((p.z - out.least.y) / pixel);
        if (x < 0 || z < 0 || x >= edge || z >= edge) return;
        const std::size_t i = std::size_t(z) * edge + std::size_t(x);
        const double above = std::max(0.0, double(p.y));
        near[i] = std::max(near[i], float(std::exp(-above / low)));
        far[i] = std::max(far[i], float(std::exp(-above / high)));
    };
    const std::size_t every = std::max<std::size_t>(1, mesh.triangleCount() / std::max<std::size_t>(1, most));
    for (std::size_t t = 0; t + 2 < mesh.indices.size(); t += 3 * every) {
        const glm::vec3 &a = mesh.positions[mesh.indices[t]], &b = mesh.positions[mesh.indices[t + 1]],
                        &c = mesh.positions[mesh.indices[t + 2]];
        const auto flat = [](const glm::vec3& v) { return glm::vec2(v.x, v.z); };
        const float longest = std::max({glm::distance(flat(a), flat(b)), glm::distance(flat(b), flat(c)),
                                        glm::distance(flat(c), flat(a))});
        const int steps = std::clamp(int(std::ceil(double(longest) / pixel)), 1, edge);
        for (int i = 0; i <= steps; ++i)
            for (int j = 0; j + i <= steps; ++j)
                mark(a + (b - a) * (float(i) / float(steps)) + (c - a) * (float(j) / float(steps)));
    }
    blur(near, edge, 2);
    blur(far, edge, 9);
    out.dark.resize(near.size());
    for (std::size_t i = 0; i < near.size(); ++i)
        out.dark[i] = std::uint8_t(std::clamp(255 * (0.50f * near[i] + 0.36f * far[i]), 0.0f, 255.0f));
    return out;
}

} // namespace zl::app
