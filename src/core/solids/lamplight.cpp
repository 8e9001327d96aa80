#include "core/solids/lamplight.h"

#include "core/solids/samples.h"
#include "core/texture/colour_transfer.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::solids {

namespace {

constexpr double nearest = 1e-4; ///< metres from the middle of a lamp: nearer is as near as that
constexpr double smallest = 1e-6;

/// Two directions square to a unit vector and to one another (Duff and others, JCGT 2017).
std::pair<glm::dvec3, glm::dvec3> besides(const glm::dvec3& n) {
    const double sign = n.z < 0 ? -1 : 1, a = -1 / (sign + n.z), b = n.x * n.y * a;
    return {{1 + sign * n.x * n.x * a, sign * b, -sign * n.x}, {b, sign + n.y * n.y * a, -n.y}};
}

/// Places all over a disc of radius 1 and a square from 0 to 1, the first of them spread as evenly as all.
struct Spread {
    static constexpr int count = 4096;
    std::array<glm::vec2, count> disc, square;
    Spread() {
        for (int k = 0; k < count; ++k) {
            const glm::dvec2 at = evenly(k, glm::dvec2(0.5));
            const double r = std::sqrt(at.x), angle = glm::two_pi<double>() * at.y;
            square[std::size_t(k)] = glm::vec2(at);
            disc[std::size_t(k)] = glm::vec2(r * std::cos(angle), r * std::sin(angle));
        }
    }
};
const Spread spread;

} // namespace

Lamplight::Lamplight(const Light& light)
    : kind_(light.kind), strength_(texture::fromSrgb(light.colour) * float(light.strength)), at_(light.at) {
    const glm::dmat3 turn = glm::mat3_cast(turned(light.turn));
    out_ = -turn[1];
    if (kind_ == LightKind::Area) {
        across_ = turn[0] * std::max(light.size.x, smallest) / 2.0;
        along_ = turn[2] * std::max(light.size.y, smallest) / 2.0;
    } else if (kind_ == LightKind::Sun)
        radius_ = std::tan(glm::radians(std::min(light.size.x, 90.0)) / 2);
    else
        radius_ = light.size.x / 2;
    point_ = kind_ != LightKind::Area && radius_ < smallest;
}

glm::vec3 Lamplight::areaOn(const glm::dvec3& at, const glm::dvec3& normal) const {
    if (glm::dot(at - at_, out_) <= 0) return glm::vec3(0);
    // What is above the surface of the four corners' polygon, by Sutherland and Hodgman 1974.
    const std::array<glm::dvec3, 4> corners{across_ + along_, across_ - along_, -across_ - along_,
                                            along_ - across_};
    std::array<glm::dvec3, 6> above;
    std::size_t count = 0;
    for (std::size_t k = 0; k < 4; ++k) {
        const glm::dvec3 a = at_ + corners[k] - at, b = at_ + corners[(k + 1) % 4] - at;
        const double ha = glm::dot(a, normal), hb = glm::dot(b, normal);
        if (ha >= 0) above[count++] = a;
        if ((ha >= 0) != (hb >= 0)) above[count++] = glm::mix(a, b, ha / (ha - hb));
    }
    double sum = 0;
    for (std::size_t k = 0; k < count; ++k) {
        const glm::dvec3 a = glm::normalize(above[k]), b = glm::normalize(above[(k + 1) % count]);
        const glm::dvec3 side = glm::cross(a, b);
        const double sine = glm::length(side);
        if (sine > 1e-12) sum += std::atan2(sine, glm::dot(a, b)) * glm::dot(side / sine, normal);
    }
    const double area = 4 * glm::length(across_) * glm::length(along_);
    return strength_ * float(std::abs(sum) / 2 / area);
}

glm::vec3 Lamplight::on(const glm::dvec3& at, const glm::dvec3& normal) const {
    if (kind_ == LightKind::Sun) return strength_ * float(std::max(0.0, glm::dot(normal, -out_)));
    if (kind_ == LightKind::Area) return areaOn(at, normal);
    const glm::dvec3 way = at_ - at;
    const double d = std::max({glm::length(way), radius_, nearest}), cosine = glm::dot(normal, way) / d;
    const double sine = radius_ / d; // of half the angle that it is seen under
    if (cosine <= -sine) return glm::vec3(0);
    if (cosine >= sine) return strength_ * float(cosine / (d * d));
    // Partly below the surface: near to what it is, by the parabola that meets none and all of it in value
    // and in slope.
    const double t = (cosine + sine) / (2 * sine);
    return strength_ * float(sine * t * t / (d * d));
}

Lamplight::Aim Lamplight::aim(const glm::vec3& at, const glm::vec3& normal, const glm::vec2& start) const {
    Aim out;
    out.kind_ = kind_, out.normal_ = normal, out.out_ = glm::vec3(out_), out.start_ = start;
    if (kind_ == LightKind::Area) {
        out.middle_ = glm::vec3(at_ - glm::dvec3(at));
        out.across_ = glm::vec3(across_), out.along_ = glm::vec3(along_);
        return out;
    }
    glm::dvec3 axis = -out_;
    double wide = radius_;
    out.middle_ = glm::vec3(axis);
    if (kind_ == LightKind::Lamp) {
        const glm::dvec3 middle = at_ - glm::dvec3(at);
        const double d = std::max(glm::length(middle), nearest), sine = std::min(radius_ / d, 0.999);
        axis = middle / d;
        // The disc that the ball is seen as.
        out.middle_ = glm::vec3(axis * (d * (1 - sine * sine)));
        wide = radius_ * std::sqrt(1 - sine * sine);
        out.radius_ = float(radius_);
    }
    const auto [u, v] = besides(axis);
    const double angle = glm::two_pi<double>() * double(start.x), c = std::cos(angle) * wide,
                 s = std::sin(angle) * wide;
    out.across_ = glm::vec3(u * c + v * s), out.along_ = glm::vec3(v * c - u * s);
    return out;
}

Lamplight::Aim::Ray Lamplight::Aim::ray(int number) const {
    constexpr float endless = 1e7f;
    const auto place = std::size_t(number % Spread::count);
    const bool area = kind_ == LightKind::Area;
    const glm::vec2 on = area ? 2.0f * glm::fract(spread.square[place] + start_) - 1.0f : spread.disc[place];
    const glm::vec3 way = middle_ + across_ * on.x + along_ * on.y;
    const float length = glm::length(way);
    Ray out;
    if (!(length > 0)) return out;
    out.towards = way / length;
    out.length = kind_ == LightKind::Sun ? endless : std::max(0.0f, length - radius_);
    out.weight = std::max(0.0f, glm::dot(out.towards, normal_));
    if (area) out.weight *= std::max(0.0f, -glm::dot(out.towards, out_)) / (length * length);
    return out;
}

Lamplight::Box Lamplight::boxFrom(const Box& seen, double sceneSize) const {
    if (kind_ == LightKind::Sun) {
        const double far = 2 * sceneSize + 1, wide = far * radius_ * 1.5;
        return {seen.least - out_ * far - wide, seen.most - out_ * far + wide};
    }
    const glm::dvec3 half =
        kind_ == LightKind::Area ? glm::abs(across_) + glm::abs(along_) : glm::dvec3(radius_);
    return {at_ - half, at_ + half};
}

} // namespace zl::solids
