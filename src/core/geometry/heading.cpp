#include "core/geometry/heading.h"

#include "core/geometry/ray_scene.h"
#include "core/geometry/wheels.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>

namespace zl::geometry {

namespace {

constexpr std::size_t mostTriangles = 400000; // heavier models are scans, whose parts say nothing

/// "+X", "−Z", or the angle from +Z towards +X.
std::string directionName(const glm::dvec2& d) {
    if (d.y == 0) return d.x > 0 ? "+X" : "−X";
    if (d.x == 0) return d.y > 0 ? "+Z" : "−Z";
    return fmt::format("{:.0f}° from +Z", glm::degrees(std::atan2(d.x, d.y)));
}

/// Wheels that stand on the ground and turn about one direction; none when they do not agree.
std::vector<Wheel> drivenWheels(const Mesh& mesh, double floor) {
    std::vector<Wheel> wheels = wheelsIn(mesh);
    double largest = 0;
    for (const Wheel& wheel : wheels) largest = std::max(largest, wheel.diameter);
    std::erase_if(wheels, [&](const Wheel& wheel) {
        return wheel.diameter <= 0.6 * largest ||
               wheel.centre.y - wheel.diameter / 2 >= floor + 0.1 * largest;
    });
    constexpr std::size_t most = 64; // more are a gearbox or a shop of wheels, and no vehicle
    if (wheels.size() > most) return {};
    std::vector<Wheel> best;
    for (const Wheel& wheel : wheels) {
        std::vector<Wheel> alike;
        for (const Wheel& other : wheels)
            if (std::abs(glm::dot(wheel.axle, other.axle)) > std::cos(glm::radians(3.0)))
                alike.push_back(other);
        if (alike.size() > best.size()) best = std::move(alike);
    }
    if (best.size() < 2 || (wheels.size() - best.size()) * 3 > best.size()) return {};
    return best;
}

/// Which end has the smaller wheels, as carts and tractors have them in front: 1 along `drive`, -1 against
/// it, 0 when they are alike.
int smallerEnd(const std::vector<Wheel>& wheels, const glm::dvec2& drive) {
    const auto along = [&](const Wheel& w) { return glm::dot(glm::dvec2(w.centre.x, w.centre.z), drive); };
    double middle = 0;
    for (const Wheel& wheel : wheels) middle += along(wheel) / double(wheels.size());
    double size[2] = {0, 0}, count[2] = {0, 0};
    for (const Wheel& wheel : wheels) {
        const int end = along(wheel) > middle;
        size[end] += wheel.diameter, count[end] += 1;
    }
    if (count[0] == 0 || count[1] == 0) return 0;
    const double ratio = (size[1] / count[1]) / (size[0] / count[0]);
    return ratio < 0.95 ? 1 : ratio > 1 / 0.95 ? -1 : 0;
}

/// How far what stands above the wheels leans along `drive`, as share of the length: to the front, where
/// people sit and look out.
double leanOf(const Mesh& mesh, const Bounds& whole, const std::vector<Wheel>& wheels,
              const glm::dvec2& drive) {
    double top = whole.min.y, area = 0, middle = 0, low = 1e300, high = -1e300;
    for (const Wheel& wheel : wheels) top = std::max(top, wheel.centre.y + wheel.diameter / 2);
    const auto along = [&](const glm::dvec3& p) { return p.x * drive.x + p.z * drive.y; };
    for (const glm::vec3& p : mesh.positions) {
        low = std::min(low, along(glm::dvec3(p)));
        high = std::max(high, along(glm::dvec3(p)));
    }
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]), b(mesh.positions[mesh.indices[3 * t + 1]]),
            c(mesh.positions[mesh.indices[3 * t + 2]]), centre = (a + b + c) / 3.0;
        if (centre.y < top + 0.25 * (whole.max.y - top)) continue;
        const double own = glm::length(glm::cross(b - a, c - a));
        area += own, middle += own * along(centre);
    }
    return area > 0 && high > low ? (middle / area - (low + high) / 2) / (high - low) : 0;
}

std::optional<HeadingGuess> fromWheels(const Mesh& mesh, const Bounds& whole) {
    const auto wheels = drivenWheels(mesh, whole.min.y);
    if (wheels.empty()) return std::nullopt;
    const glm::dvec2 axle = wheels[0].axle;
    glm::dvec2 drive(axle.y, -axle.x);
    const int smaller = smallerEnd(wheels, drive);
    const double lean = leanOf(mesh, whole, wheels, drive);
    const int leans = lean > 0.06 ? 1 : lean < -0.06 ? -1 : 0;
    const int front = smaller != 0 ? smaller : leans;
    if (front == 0 || smaller * leans < 0) return std::nullopt;
    drive *= front;
    return HeadingGuess{std::atan2(drive.x, drive.y),
                        fmt::format("{} wheels turn about one direction, and {} {}", wheels.size(),
                                    smaller != 0 ? "the smaller ones are towards" : "the upper part leans to",
                                    directionName(drive))};
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
