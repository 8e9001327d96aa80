#include "core/motion/rounded_joint.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>
#include <optional>

namespace zl::motion {

namespace {

constexpr int ringsOfRounding = 2;

/// Out of the segment: against the area that its border runs round (Newell 1972).
glm::dvec3 outOf(const Mesh& mesh, const CutLoop& loop, const glm::dvec3& about) {
    glm::dvec3 area(0);
    for (std::size_t k = 0; k < loop.corners.size(); ++k) {
        const glm::dvec3 a(mesh.positions[loop.corners[k]]),
            b(mesh.positions[loop.corners[(k + 1) % loop.corners.size()]]);
        area += glm::cross(a - about, b - about);
    }
    const double length = glm::length(area);
    return length > 0 ? -area / length : glm::dvec3(0);
}

glm::dvec3 middleOf(const Mesh& mesh, const CutLoop& loop) {
    glm::dvec3 sum(0);
    for (const std::uint32_t corner : loop.corners) sum += glm::dvec3(mesh.positions[corner]);
    return sum / double(loop.corners.size());
}

/// A copy of a corner at another place.
std::uint32_t addCorner(Mesh& to, const Mesh& from, std::uint32_t corner, const glm::dvec3& place,
                        const glm::dvec3& normal) {
    const auto v = std::uint32_t(to.positions.size());
    to.positions.emplace_back(place);
    if (!to.normals.empty()) to.normals.emplace_back(normal);
    for (std::size_t set = 0; set < to.uvSets.size(); ++set)
        to.uvSets[set].push_back(from.uvSets[set][corner]);
    if (!to.colours.empty()) to.colours.push_back(from.colours[corner]);
    return v;
}

} // namespace

RoundedJoint::Rim RoundedJoint::seen(const glm::dvec3& place) const {
    const glm::dvec3 way = place - joint;
    const double distance = glm::length(way);
    if (!(distance > 0)) return {0, 0, 0};
    const glm::dvec3 aside = glm::cross(out, across);
    return {std::atan2(glm::dot(way, aside), glm::dot(way, across)),
            std::acos(std::clamp(glm::dot(way, out) / distance, -1.0, 1.0)), distance};
}

glm::dvec3 RoundedJoint::along(const Rim& from, double t) const {
    const double angle = from.fromPole * (1 - share * t), r = glm::mix(from.distance, mean, share * t);
    const glm::dvec3 radial =
        std::cos(from.azimuth) * across + std::sin(from.azimuth) * glm::cross(out, across);
    return joint + r * (std::cos(angle) * out + std::sin(angle) * radial);
}

double RoundedJoint::standsOff(const glm::dvec3& place) const {
    const Rim here = seen(place);
    // The border's corners on both sides of this azimuth.
    auto after = std::ranges::lower_bound(rim, here.azimuth, {}, &Rim::azimuth);
    const Rim& b = after == rim.end() ? rim.front() : *after;
    const Rim& a = after == rim.begin() ? rim.back() : *std::prev(after);
    double span = b.azimuth - a.azimuth, on = here.azimuth - a.azimuth;
    if (span <= 0) span += glm::two_pi<double>();
    if (on < 0) on += glm::two_pi<double>();
    const double share01 = span > 0 ? std::clamp(on / span, 0.0, 1.0) : 0;
    const double fromPole = glm::mix(a.fromPole, b.fromPole, share01),
                 distance = glm::mix(a.distance, b.distance, share01);
    if (here.fromPole >= fromPole || !(fromPole > 0)) return 0;
    const double done = std::min(share, 1 - here.fromPole / fromPole);
    const double end = fromPole * (1 - share);
    const double off = std::max(0.0, here.distance - glm::mix(distance, mean, done));
    if (here.fromPole >= end) return off;
    if (!closed) return std::max(off, here.distance * (end - here.fromPole));
    // Over the flat end.
    const double height = glm::mix(distance, mean, share) * std::cos(end);
    return std::max(0.0, here.distance * std::cos(here.fromPole) - height);
}

std::optional<RoundedJoint> roundedJoint(const Mesh& mesh, const CutLoop& loop, const glm::dvec3& joint,
                                         double share, bool closed) {
    RoundedJoint made{
        .joint = joint, .out = outOf(mesh, loop, middleOf(mesh, loop)), .share = share, .closed = closed};
    if (glm::length(made.out) < 0.5) return std::nullopt;
    const glm::dvec3 beside = std::abs(made.out.x) < 0.8 ? glm::dvec3(1, 0, 0) : glm::dvec3(0, 1, 0);
    made.across = glm::normalize(beside - glm::dot(beside, made.out) * made.out);
    double round = 0;
    for (std::size_t k = 0; k < loop.corners.size(); ++k) {
        const auto here = made.seen(glm::dvec3(mesh.positions[loop.corners[k]])),
                   next = made.seen(glm::dvec3(mesh.positions[loop.corners[(k + 1) % loop.corners.size()]]));
        if (!(here.distance > 0)) return std::nullopt;
        double by = next.azimuth - here.azimuth;
        if (by > glm::pi<double>()) by -= glm::two_pi<double>();
        if (by < -glm::pi<double>()) by += glm::two_pi<double>();
        round += by;
        made.rim.push_back(here);
        made.mean += here.distance / double(loop.corners.size());
    }
    // Once round, or the joint lies beside the border.
    if (std::abs(std::abs(round) - glm::two_pi<double>()) > 0.1) return std::nullopt;
    std::ranges::sort(made.rim, {}, &RoundedJoint::Rim::azimuth);
    return made;
}

void closeBorder(Mesh& segment, std::vector<Wear>& wear, const Mesh& mesh, const CutLoop& loop,
                 const RoundedJoint* rounded, bool closed) {
    const std::size_t count = loop.corners.size();
    const auto triangle = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        for (const std::uint32_t v : {a, b, c}) segment.indices.push_back(v);
        wear.push_back(loop.wear);
    };
    std::vector<glm::dvec3> places;
    for (const std::uint32_t corner : loop.corners) places.emplace_back(mesh.positions[corner]);
    glm::dvec3 pole = middleOf(mesh, loop), out = outOf(mesh, loop, pole);
    if (rounded && rounded->share > 0) {
        std::vector<RoundedJoint::Rim> rims;
        for (const glm::dvec3& place : places) rims.push_back(rounded->seen(place));
        std::vector<std::uint32_t> last, ring(count);
        // At the very pole all lines meet; the flat end closes what is left before it.
        const double until = rounded->share > 0.95 && closed ? 0.9 : 1.0;
        for (int r = 0; r <= ringsOfRounding; ++r) {
            for (std::size_t k = 0; k < count; ++k) {
                if (r > 0) places[k] = rounded->along(rims[k], until * r / ringsOfRounding);
                const glm::dvec3 away = places[k] - rounded->joint;
                ring[k] = addCorner(segment, mesh, loop.corners[k], places[k], glm::normalize(away));
            }
            if (r > 0)
                for (std::size_t k = 0; k < count; ++k) {
                    const std::size_t next = (k + 1) % count;
                    // Against the border's own direction.
                    triangle(last[next], last[k], ring[k]), triangle(last[next], ring[k], ring[next]);
                }
            last = ring;
        }
        pole = glm::dvec3(0);
        for (const glm::dvec3& place : places) pole += place / double(count);
    }
    if (!closed) return;
    std::vector<std::uint32_t> flat;
    for (std::size_t k = 0; k < count; ++k)
        flat.push_back(addCorner(segment, mesh, loop.corners[k], places[k], out));
    const std::uint32_t middle = addCorner(segment, mesh, loop.corners[0], pole, out);
    for (std::size_t k = 0; k < count; ++k) triangle(flat[(k + 1) % count], flat[k], middle);
}

} // namespace zl::motion
