#include "core/geometry/solids.h"

#include <cassert>
#include <cmath>

namespace zl::geometry {

Mesh boxMesh(const glm::dvec3& min, const glm::dvec3& max) {
    Mesh mesh;
    mesh.name = "box";
    for (int i = 0; i < 8; ++i)
        mesh.positions.emplace_back(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z);
    mesh.indices = {0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4,
                    2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5};
    mesh.runs = {{0, 12, -1}};
    return mesh;
}

Mesh cylinderMesh(const glm::dvec3& foot, double radius, double height, int sides) {
    assert(sides >= 3);
    Mesh mesh;
    mesh.name = "cylinder";
    const auto n = static_cast<std::uint32_t>(sides);
    for (std::uint32_t i = 0; i < n; ++i) {
        const double angle = 2 * 3.14159265358979323846 * i / n;
        const glm::dvec3 at = foot + glm::dvec3(std::cos(angle) * radius, 0, -std::sin(angle) * radius);
        mesh.positions.emplace_back(at);
        mesh.positions.emplace_back(at + glm::dvec3(0, height, 0));
    }
    const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        mesh.indices.insert(mesh.indices.end(), {a, b, c});
    };
    for (std::uint32_t i = 0; i < n; ++i) {
        const std::uint32_t a = 2 * i, b = 2 * ((i + 1) % n);
        add(a, b, a + 1);
        add(b, b + 1, a + 1);
        if (i >= 1 && i + 1 < n) {
            add(0, b, a);
            add(1, a + 1, b + 1);
        }
    }
    mesh.runs = {{0, static_cast<std::uint32_t>(mesh.triangleCount()), -1}};
    return mesh;
}

} // namespace zl::geometry
