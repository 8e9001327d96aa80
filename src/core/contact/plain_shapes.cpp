#include "core/contact/plain_shapes.h"

#include "core/contact/convex_hull.h"
#include "core/contact/principal_axes.h"
#include "core/geometry/clean.h"
#include "core/geometry/solids.h"
#include "core/geometry/world.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <limits>

namespace zl::contact {

namespace {

using Axes = std::array<glm::dvec3, 3>;

/// Hulls of points, and the body itself where those have none.
Mesh hullOf(const std::vector<glm::vec3>& points, const Mesh& body) {
    auto hull = convexHull(points);
    return hull ? std::move(*hull) : body;
}

/// The shape that holds least, of those that `make` makes on the candidates for axes.
Mesh least(const Mesh& body, const std::function<std::vector<glm::vec3>(const Axes&)>& make, bool anyFirst) {
    std::vector<Axes> all{{glm::dvec3(1, 0, 0), glm::dvec3(0, 1, 0), glm::dvec3(0, 0, 1)}};
    if (const auto own = principalAxes(body.positions)) all.push_back(*own);
    Mesh best;
    double smallest = std::numeric_limits<double>::max();
    for (const Axes& axes : all)
        for (int turn = 0; turn < (anyFirst ? 3 : 1); ++turn) { // which of them is the shape's own
            const Axes turned{axes[std::size_t(turn)], axes[std::size_t(turn + 1) % 3],
                              axes[std::size_t(turn + 2) % 3]};
            Mesh made = hullOf(make(turned), body);
            const double volume = geometry::signedVolume(made);
            if (volume < 0.999 * smallest) smallest = volume, best = std::move(made);
        }
    return best;
}

/// The middle of a ball (or circle, where one coordinate is 0) around points that is nearly the smallest: it
/// goes towards the farthest point by ever smaller steps (Bădoiu and Clarkson 2003).
glm::dvec3 middleOf(const std::vector<glm::dvec3>& points) {
    glm::dvec3 at(0);
    for (const glm::dvec3& p : points) at += p / double(points.size());
    for (int i = 1; i <= 400; ++i) {
        const auto farthest =
            std::ranges::max_element(points, {}, [&](const auto& p) { return glm::distance(p, at); });
        at += (*farthest - at) / double(i + 1);
    }
    return at;
}

double reachFrom(const glm::dvec3& middle, const std::vector<glm::dvec3>& points) {
    double out = 0;
    for (const glm::dvec3& p : points) out = std::max(out, glm::distance(p, middle));
    return out;
}

/// Points along an axis, as distance along it and place across.
struct Along {
    std::vector<double> along;
    std::vector<glm::dvec3> across; ///< x and y across, z 0
    glm::dvec3 middle{0};
    double radius = 0;
};
Along alongOf(const Mesh& body, const Axes& axes) {
    Along out;
    for (const glm::vec3& p : body.positions) {
        out.along.push_back(glm::dot(glm::dvec3(p), axes[0]));
        out.across.emplace_back(glm::dot(glm::dvec3(p), axes[1]), glm::dot(glm::dvec3(p), axes[2]), 0);
    }
    out.middle = middleOf(out.across);
    out.radius = reachFrom(out.middle, out.across);
    return out;
}

/// A ring of corners around the axis whose sides, not whose corners, are `radius` from it.
void ring(std::vector<glm::vec3>& to, const Axes& axes, const glm::dvec3& middle, double along, double radius,
          int sides) {
    const double out = radius / std::cos(glm::pi<double>() / sides);
    for (int i = 0; i < sides; ++i) {
        const double a = 2 * glm::pi<double>() * i / sides;
        to.emplace_back(axes[0] * along + axes[1] * (middle.x + out * std::cos(a)) +
                        axes[2] * (middle.y + out * std::sin(a)));
    }
}

/// The corners of an icosahedron, once divided where `fine`, at distance 1.
std::vector<glm::dvec3> roundCorners(bool fine) {
    const double t = (1 + std::sqrt(5.0)) / 2;
    std::vector<glm::dvec3> out;
    for (const double a : {-1.0, 1.0})
        for (const double b : {-t, t}) out.insert(out.end(), {{a, b, 0}, {0, a, b}, {b, 0, a}});
    if (fine) {
        const std::vector<glm::dvec3> first = out;
        for (std::size_t i = 0; i < first.size(); ++i)
            for (std::size_t k = i + 1; k < first.size(); ++k)
                if (std::abs(glm::distance(first[i], first[k]) - 2) < 1e-9)
                    out.push_back((first[i] + first[k]) / 2.0);
    }
    for (glm::dvec3& p : out) p = glm::normalize(p);
    return out;
}

/// How near the faces of a hull come to the origin.
double innermost(const Mesh& hull) {
    double out = std::numeric_limits<double>::max();
    for (std::size_t t = 0; t < hull.triangleCount(); ++t) {
        const glm::dvec3 a = hull.positions[hull.indices[3 * t]], b = hull.positions[hull.indices[3 * t + 1]],
                         c = hull.positions[hull.indices[3 * t + 2]];
        const glm::dvec3 across = glm::cross(b - a, c - a);
        if (glm::length(across) > 1e-12) out = std::min(out, std::abs(glm::dot(a, glm::normalize(across))));
    }
    return out;
}

} // namespace

Mesh boxAround(const Mesh& body) {
    return least(
        body,
        [&](const Axes& axes) {
            geometry::Bounds bounds;
            const glm::dmat3 onto(axes[0], axes[1], axes[2]);
            for (const glm::vec3& p : body.positions) bounds.add(glm::transpose(onto) * glm::dvec3(p));
            return geometry::transformed(geometry::boxMesh(bounds.min, bounds.max), glm::dmat4(onto))
                .positions;
        },
        false);
}

Mesh cylinderAround(const Mesh& body, std::size_t corners) {
    const int sides = int(std::clamp<std::size_t>(corners / 2, 3, 16));
    return least(
        body,
        [&](const Axes& axes) {
            const Along points = alongOf(body, axes);
            const auto [low, high] = std::ranges::minmax_element(points.along);
            std::vector<glm::vec3> out;
            for (const double end : {*low, *high}) ring(out, axes, points.middle, end, points.radius, sides);
            return out;
        },
        true);
}

Mesh capsuleAround(const Mesh& body, std::size_t corners) {
    const int sides = int(std::clamp<std::size_t>(corners / 4, 6, 12)); // two rings at each end
    return least(
        body,
        [&](const Axes& axes) {
            const Along points = alongOf(body, axes);
            // The ends of the line that every point is within the radius of.
            double from = std::numeric_limits<double>::max(), to = -from;
            for (std::size_t i = 0; i < points.along.size(); ++i) {
                const double off = glm::distance(points.across[i], points.middle);
                const double room = std::sqrt(std::max(0.0, points.radius * points.radius - off * off));
                from = std::min(from, points.along[i] + room), to = std::max(to, points.along[i] - room);
            }
            if (from > to) from = to = (from + to) / 2;
            std::vector<glm::vec3> out;
            // Half of an eight-sided wheel around the half ball, turned about the axis: its rim is straight
            // where the ball meets the cylinder, so nothing is added along the length.
            const double low = points.radius * std::tan(glm::pi<double>() / 8);
            for (const double end : {-1.0, 1.0}) {
                const double at = end < 0 ? from : to;
                ring(out, axes, points.middle, at + end * low, points.radius, sides);
                ring(out, axes, points.middle, at + end * points.radius, low, sides);
            }
            return out;
        },
        true);
}

Mesh ballAround(const Mesh& body, std::size_t corners) {
    std::vector<glm::dvec3> points(body.positions.begin(), body.positions.end());
    const glm::dvec3 middle = middleOf(points);
    const double radius = reachFrom(middle, points);
    const auto round = roundCorners(corners >= 42);
    const Mesh unit = hullOf(std::vector<glm::vec3>(round.begin(), round.end()), body);
    const double outer = radius / innermost(unit) * (1 + 1e-6);
    std::vector<glm::vec3> out;
    for (const glm::dvec3& p : round) out.emplace_back(middle + outer * p);
    return hullOf(out, body);
}

} // namespace zl::contact
