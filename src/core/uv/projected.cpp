#include "core/uv/projected.h"

#include "core/geometry/world.h"

#include <glm/gtc/constants.hpp>

#include <cmath>

namespace zl::uv {

namespace {

struct Corners {
    std::array<glm::dvec3, 3> at;
    /// Twice the area long.
    glm::dvec3 normal() const { return glm::cross(at[1] - at[0], at[2] - at[0]); }
    glm::dvec3 middle() const { return (at[0] + at[1] + at[2]) / 3.0; }
};

std::vector<Corners> cornersOf(const Mesh& mesh, const glm::dmat4& toWorld) {
    std::vector<Corners> out(mesh.triangleCount());
    for (std::size_t t = 0; t < out.size(); ++t)
        for (std::size_t k = 0; k < 3; ++k)
            out[t].at[k] = glm::dvec3(toWorld * glm::dvec4(mesh.positions[mesh.indices[3 * t + k]], 1));
    return out;
}

int mainAxis(const glm::dvec3& d) {
    const glm::dvec3 a = glm::abs(d);
    return a.x >= a.y && a.x >= a.z ? 0 : a.y >= a.z ? 1 : 2;
}

/// Seen along an axis from the side that `from` says, with Y up; the top and the underside with -Z up.
glm::dvec2 seenAlong(const glm::dvec3& p, int axis, double from) {
    if (axis == 0) return {-from * p.z, -p.y};
    if (axis == 1) return {p.x, from * p.z};
    return {from * p.x, -p.y};
}

/// What faces along the axis of a cylinder.
bool isLid(const Corners& c, int axis) {
    const glm::dvec3 normal = c.normal();
    return std::abs(normal[axis]) > 0.8 * glm::length(normal);
}

} // namespace

Charts boxCharts(const Mesh& mesh, const glm::dmat4& toWorld) {
    Charts out;
    out.count = 6;
    for (const Corners& c : cornersOf(mesh, toWorld)) {
        const glm::dvec3 normal = c.normal();
        const int axis = mainAxis(normal);
        const double from = normal[axis] < 0 ? -1 : 1;
        out.chart.push_back(2 * axis + (from < 0));
        auto& at = out.at.emplace_back();
        for (std::size_t k = 0; k < 3; ++k) at[k] = seenAlong(c.at[k], axis, from);
    }
    return out;
}

Charts planeCharts(const Mesh& mesh, const glm::dmat4& toWorld, int axis) {
    Charts out;
    out.count = 1;
    for (const Corners& c : cornersOf(mesh, toWorld)) {
        out.chart.push_back(0);
        auto& at = out.at.emplace_back();
        for (std::size_t k = 0; k < 3; ++k) at[k] = seenAlong(c.at[k], axis, 1);
    }
    return out;
}

Charts cylinderCharts(const Mesh& mesh, const glm::dmat4& toWorld, int axis) {
    const auto corners = cornersOf(mesh, toWorld);
    geometry::Bounds bounds;
    for (const Corners& c : corners)
        for (const glm::dvec3& p : c.at) bounds.add(p);
    const glm::dvec3 middle = bounds.centre();
    const int first = (axis + 1) % 3, second = (axis + 2) % 3;
    double distance = 0, weight = 0;
    for (const Corners& c : corners) {
        if (isLid(c, axis)) continue;
        const double area = glm::length(c.normal());
        for (const glm::dvec3& p : c.at)
            distance += area * std::hypot(p[first] - middle[first], p[second] - middle[second]),
                weight += area;
    }
    const double radius = weight > 0 ? distance / weight : bounds.size()[first] / 2;
    Charts out;
    out.count = 4;
    for (const Corners& c : corners) {
        auto& at = out.at.emplace_back();
        if (isLid(c, axis)) {
            const double from = c.normal()[axis] < 0 ? -1 : 1;
            out.chart.push_back(from < 0 ? 3 : 2);
            for (std::size_t k = 0; k < 3; ++k) at[k] = seenAlong(c.at[k] - middle, axis, from);
            continue;
        }
        const auto angleOf = [&](const glm::dvec3& p) {
            return std::atan2(p[second] - middle[second], p[first] - middle[first]);
        };
        const double centre = angleOf(c.middle());
        bool beyond = false;
        for (std::size_t k = 0; k < 3; ++k) {
            double angle = angleOf(c.at[k]);
            while (angle - centre > glm::pi<double>()) angle -= glm::two_pi<double>(), beyond = true;
            while (angle - centre < -glm::pi<double>()) angle += glm::two_pi<double>(), beyond = true;
            at[k] = {radius * angle, middle[axis] - c.at[k][axis]};
        }
        out.chart.push_back(beyond ? 1 : 0);
    }
    return out;
}

} // namespace zl::uv
