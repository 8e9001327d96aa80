#include "core/geometry/lean.h"

#include "core/geometry/flat_outline.h"
#include "core/geometry/world.h"

#include <cmath>

namespace zl::geometry {

std::optional<double> leanBeforeFall(const Mesh& solid, const glm::dmat4& placement) {
    const Bounds bounds = meshBounds(solid, placement);
    if (bounds.empty()) return std::nullopt;
    const auto at = [&](std::uint32_t v) {
        return glm::dvec3(placement * glm::dvec4(solid.positions[v], 1.0));
    };
    glm::dvec3 weighted(0.0);
    double volume = 0;
    const glm::dvec3 origin = bounds.centre();
    for (std::size_t t = 0; t < solid.triangleCount(); ++t) {
        const glm::dvec3 a = at(solid.indices[3 * t]) - origin, b = at(solid.indices[3 * t + 1]) - origin,
                         c = at(solid.indices[3 * t + 2]) - origin;
        const double six = glm::dot(a, glm::cross(b, c)); // six times a tetrahedron's volume, signed
        volume += six;
        weighted += (a + b + c) * (six / 4);
    }
    const double size = glm::length(bounds.size());
    if (!(std::abs(volume) > 1e-12 * size * size * size)) return std::nullopt;
    const glm::dvec3 mass = origin + weighted / volume;
    std::vector<glm::dvec2> standing;
    for (std::uint32_t v = 0; v < solid.vertexCount(); ++v)
        if (const glm::dvec3 p = at(v); p.y <= bounds.min.y + 0.01 * bounds.size().y)
            standing.emplace_back(p.x, p.z);
    const auto outline = convexOutline(std::move(standing));
    double nearest = 1e300;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const glm::dvec2 from = outline[i], way = outline[(i + 1) % outline.size()] - from;
        const double length = glm::length(way);
        if (length > 0) // to the left of every edge is inside
            nearest = std::min(nearest, (way.x * (mass.z - from.y) - way.y * (mass.x - from.x)) / length);
    }
    if (outline.size() < 3) nearest = 0; // on an edge or a point
    return std::atan2(nearest, mass.y - bounds.min.y);
}

} // namespace zl::geometry
