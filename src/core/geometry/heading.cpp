#include "core/geometry/heading.h"

#include "core/geometry/ray_scene.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

namespace zl::geometry {

namespace {

constexpr std::size_t mostTriangles = 400000; // heavier models are scans, whose parts say nothing

struct Wheel {
    glm::dvec3 centre;
    double diameter;
    int axle; ///< 0: along X, 2: along Z
};

/// Parts of a flattened mesh that look like wheels: as high as long, thinner than that along a level axle,
/// with their corners near the rim of a circle rather than all over a square.
std::vector<Wheel> wheelsIn(const Mesh& mesh) {
    std::size_t count = 0;
    const auto piece = pieceOfTriangle(mesh, joinedPlaces(mesh.positions, 0), &count);
    std::vector<Bounds> bounds(count);
    for (std::size_t i = 0; i < mesh.indices.size(); ++i)
        bounds[piece[i / 3]].add(glm::dvec3(mesh.positions[mesh.indices[i]]));
    std::vector<double> outside(count, 0), corners(count, 0);
    const auto axleOf = [](const glm::dvec3& size) { return size.x < size.z ? 0 : 2; };
    for (std::size_t i = 0; i < mesh.indices.size(); ++i) {
        const Bounds& b = bounds[piece[i / 3]];
        const glm::dvec3 size = b.size(), p = glm::dvec3(mesh.positions[mesh.indices[i]]) - b.centre();
        const double across = axleOf(size) == 0 ? p.z : p.x;
        corners[piece[i / 3]] += 1;
        outside[piece[i / 3]] += std::hypot(across, p.y) > 0.54 * size.y;
    }
    std::vector<Wheel> wheels;
    for (std::size_t i = 0; i < count; ++i) {
        const glm::dvec3 size = bounds[i].size();
        const int axle = axleOf(size);
        const double wide = axle == 0 ? size.x : size.z, round = axle == 0 ? size.z : size.x;
        if (!(size.y > 0) || corners[i] < 24 || std::abs(round / size.y - 1) > 0.06 || wide > 0.75 * size.y ||
            outside[i] > 0.02 * corners[i])
            continue;
        wheels.push_back({bounds[i].centre(), size.y, axle});
    }
    return wheels;
}

std::optional<HeadingGuess> fromWheels(const Mesh& mesh, const Bounds& whole) {
    const auto wheels = wheelsIn(mesh);
    double largest = 0;
    for (const Wheel& wheel : wheels) largest = std::max(largest, wheel.diameter);
    int along[3] = {0, 0, 0};
    double top = whole.min.y;
    for (const Wheel& wheel : wheels)
        if (wheel.diameter > 0.6 * largest &&
            wheel.centre.y - wheel.diameter / 2 < whole.min.y + 0.1 * largest) {
            ++along[wheel.axle];
            top = std::max(top, wheel.centre.y + wheel.diameter / 2);
        }
    const int axle = along[0] > along[2] ? 0 : 2;
    if (along[axle] < 2 || along[2 - axle] * 3 > along[axle]) return std::nullopt;
    // Which end: what stands above the wheels leans to the front, where people sit and look out.
    const int drive = 2 - axle;
    double area = 0, middle = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]), b(mesh.positions[mesh.indices[3 * t + 1]]),
            c(mesh.positions[mesh.indices[3 * t + 2]]), centre = (a + b + c) / 3.0;
        if (centre.y < top + 0.25 * (whole.max.y - top)) continue;
        const double own = glm::length(glm::cross(b - a, c - a));
        area += own, middle += own * centre[drive];
    }
    if (!(area > 0)) return std::nullopt;
    const double lean = (middle / area - whole.centre()[drive]) / whole.size()[drive];
    if (std::abs(lean) < 0.06) return std::nullopt;
    const double angle = (drive == 0 ? glm::half_pi<double>() : 0.0) + (lean > 0 ? 0.0 : glm::pi<double>());
    return HeadingGuess{std::remainder(angle, 2 * glm::pi<double>()),
                        fmt::format("{} wheels turn about axles along {}, and the upper part leans to {}{}",
                                    along[axle], axle == 0 ? "X" : "Z", lean > 0 ? "+" : "−",
                                    drive == 0 ? "X" : "Z")};
}

/// Mean distance of mirrored corners from the surface, as share of the size, over at most `samples` of them.
double asymmetry(const Mesh& mesh, const RayScene& scene, const Bounds& bounds, int axis,
                 std::size_t samples) {
    const std::size_t step = std::max<std::size_t>(1, mesh.vertexCount() / samples);
    double sum = 0, count = 0;
    for (std::size_t i = 0; i < mesh.vertexCount(); i += step) {
        glm::vec3 p = mesh.positions[i];
        p[axis] = static_cast<float>(2 * bounds.centre()[axis] - p[axis]);
        sum += scene.distanceTo(p);
        count += 1;
    }
    return count > 0 ? sum / count / glm::length(bounds.size()) : 0;
}

std::optional<HeadingGuess> fromSymmetry(const Mesh& mesh, const Bounds& bounds) {
    const RayScene scene(mesh);
    const double acrossX = asymmetry(mesh, scene, bounds, 0, 3000),
                 acrossZ = asymmetry(mesh, scene, bounds, 2, 3000);
    constexpr double same = 0.002, other = 0.01;
    const int sides = acrossX < same && acrossZ > other ? 0 : acrossZ < same && acrossX > other ? 2 : -1;
    if (sides < 0) return std::nullopt;
    const int front = 2 - sides;
    // A face is where corners crowd.
    double high = 0, low = 0;
    for (const glm::vec3& p : mesh.positions) (p[front] > bounds.centre()[front] ? high : low) += 1;
    if (std::max(high, low) < 1.3 * std::min(high, low)) return std::nullopt;
    const double angle = (front == 0 ? glm::half_pi<double>() : 0.0) + (high > low ? 0.0 : glm::pi<double>());
    return HeadingGuess{
        std::remainder(angle, 2 * glm::pi<double>()),
        fmt::format("its two sides mirror each other across {}, and most detail is towards {}{}",
                    sides == 0 ? "X" : "Z", high > low ? "+" : "−", front == 0 ? "X" : "Z")};
}

} // namespace

std::optional<HeadingGuess> guessHeading(const Model& model) {
    if (triangleCount(model) == 0 || triangleCount(model) > mostTriangles) return std::nullopt;
    const Mesh mesh = flattened(model);
    const Bounds bounds = meshBounds(mesh);
    if (!(bounds.size().x > 0) || !(bounds.size().z > 0)) return std::nullopt;
    if (auto guess = fromWheels(mesh, bounds)) return guess;
    return fromSymmetry(mesh, bounds);
}

} // namespace zl::geometry
