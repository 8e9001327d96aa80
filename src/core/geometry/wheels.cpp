#include "core/geometry/wheels.h"

#include "core/geometry/topology.h"
#include "core/geometry/weld.h"

#include <cmath>

namespace zl::geometry {

namespace {

/// One loose part's corners, each counted as often as triangles use it.
struct Part {
    double corners = 0, outside = 0;
    glm::dvec2 sum{0}, squares{0}; ///< of x and z
    double product = 0;            ///< of x times z
    glm::dvec2 axle{1, 0}, round{0, 1};
    glm::dvec3 low{1e300}, high{-1e300}; ///< along the axle, up, and along `round`

    glm::dvec3 size() const { return high - low; }
    glm::dvec3 turned(const glm::dvec3& p) const {
        const glm::dvec2 plan(p.x, p.z);
        return {glm::dot(plan, axle), p.y, glm::dot(plan, round)};
    }
    /// The direction of least spread: the smaller eigenvector of the corners' covariance.
    void findAxle() {
        const glm::dvec2 mean = sum / corners, spread = squares / corners - mean * mean;
        const double angle = 0.5 * std::atan2(2 * (product / corners - mean.x * mean.y), spread.x - spread.y);
        axle = {-std::sin(angle), std::cos(angle)};
        constexpr double snap = 0.0017;
        if (std::abs(axle.x) < snap) axle = {0, 1};
        if (std::abs(axle.y) < snap) axle = {1, 0};
        if (axle.x < 0) axle = -axle;
        round = {-axle.y, axle.x};
    }
};

} // namespace

std::vector<Wheel> wheelsIn(const Mesh& mesh) {
    std::size_t count = 0;
    const auto piece = pieceOfTriangle(mesh, joinedPlaces(mesh.positions, 0), &count);
    std::vector<Part> parts(count);
    const auto forEachCorner = [&](const auto& visit) {
        for (std::size_t i = 0; i < mesh.indices.size(); ++i)
            visit(parts[piece[i / 3]], glm::dvec3(mesh.positions[mesh.indices[i]]));
    };
    forEachCorner([](Part& part, const glm::dvec3& p) {
        part.corners += 1;
        part.sum += glm::dvec2(p.x, p.z), part.squares += glm::dvec2(p.x * p.x, p.z * p.z);
        part.product += p.x * p.z;
    });
    for (Part& part : parts) part.findAxle();
    forEachCorner([](Part& part, const glm::dvec3& p) {
        const glm::dvec3 q = part.turned(p);
        part.low = glm::min(part.low, q), part.high = glm::max(part.high, q);
    });
    forEachCorner([](Part& part, const glm::dvec3& p) {
        const glm::dvec3 q = part.turned(p) - (part.low + part.high) / 2.0;
        part.outside += std::hypot(q.y, q.z) > 0.54 * part.size().y;
    });
    std::vector<Wheel> wheels;
    for (const Part& part : parts) {
        const glm::dvec3 size = part.size(), middle = (part.low + part.high) / 2.0;
        if (!(size.y > 0) || part.corners < 24 || std::abs(size.z / size.y - 1) > 0.06 ||
            size.x > 0.75 * size.y || part.outside > 0.02 * part.corners)
            continue;
        const glm::dvec2 plan = part.axle * middle.x + part.round * middle.z;
        wheels.push_back({{plan.x, middle.y, plan.y}, size.y, part.axle});
    }
    return wheels;
}

} // namespace zl::geometry
