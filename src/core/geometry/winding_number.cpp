#include "core/geometry/winding_number.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <array>
#include <tbb/parallel_invoke.h>

namespace zl::geometry {

namespace {

constexpr std::uint32_t leaf = 8;
constexpr double farOff = 3; ///< times the reach, from where on the series stands for the triangles

glm::dvec3 middleOf(const glm::vec3& a, const glm::vec3& b, const glm::vec3& c) {
    return (glm::dvec3(a) + glm::dvec3(b) + glm::dvec3(c)) / 3.0;
}

/// As long as the triangle's area, the way it faces.
glm::dvec3 halfCross(const glm::vec3& a, const glm::vec3& b, const glm::vec3& c) {
    return glm::cross(glm::dvec3(b) - glm::dvec3(a), glm::dvec3(c) - glm::dvec3(a)) / 2.0;
}

/// Half the solid angle of a triangle seen from the origin, steradians, signed (van Oosterom and Strackee
/// 1983).
double halfSolidAngle(const glm::dvec3& a, const glm::dvec3& b, const glm::dvec3& c) {
    const double la = glm::length(a), lb = glm::length(b), lc = glm::length(c);
    const double above = glm::dot(a, glm::cross(b, c));
    const double below = la * lb * lc + glm::dot(a, b) * lc + glm::dot(b, c) * la + glm::dot(c, a) * lb;
    return above == 0 && below == 0 ? 0 : std::atan2(above, below); // a corner itself sees nothing
}

} // namespace

WindingNumber::WindingNumber(const Mesh& mesh) {
    triangles_.reserve(mesh.triangleCount());
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        triangles_.push_back({mesh.positions[mesh.indices[3 * t]], mesh.positions[mesh.indices[3 * t + 1]],
                              mesh.positions[mesh.indices[3 * t + 2]]});
    if (triangles_.empty()) return;
    knots_.resize(knotsFor(std::uint32_t(triangles_.size())));
    grow(0, 0, std::uint32_t(triangles_.size()));
}

std::uint32_t WindingNumber::knotsFor(std::uint32_t count) {
    return count <= leaf ? 1 : 1 + knotsFor(count / 2) + knotsFor(count - count / 2);
}

/// Of the triangles themselves.
void WindingNumber::sum(Knot& knot) const {
    const auto begin = triangles_.begin() + knot.first, end = begin + knot.count;
    glm::dvec3 plain{0};
    for (auto t = begin; t != end; ++t) {
        const glm::dvec3 middle = middleOf(t->a, t->b, t->c), normal = halfCross(t->a, t->b, t->c);
        const double own = glm::length(normal);
        knot.area += own, plain += middle, knot.middle += own * middle, knot.normal += normal;
    }
    knot.middle = knot.area > 0 ? knot.middle / knot.area : plain / double(knot.count);
    for (auto t = begin; t != end; ++t) {
        knot.spread +=
            glm::outerProduct(middleOf(t->a, t->b, t->c) - knot.middle, halfCross(t->a, t->b, t->c));
        for (const glm::vec3& corner : {t->a, t->b, t->c})
            knot.reach = std::max(knot.reach, glm::distance(glm::dvec3(corner), knot.middle));
    }
}

void WindingNumber::grow(std::uint32_t place, std::uint32_t first, std::uint32_t count) {
    Knot& knot = knots_[place];
    knot.first = first, knot.count = count;
    if (count <= leaf) return sum(knot);
    const auto begin = triangles_.begin() + first, end = begin + count;
    glm::vec3 least{1e30f}, most{-1e30f};
    for (auto t = begin; t != end; ++t) least = glm::min(least, t->a), most = glm::max(most, t->a);
    const glm::vec3 size = most - least;
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    const std::uint32_t half = count / 2;
    std::nth_element(begin, begin + half, end, [axis](const Triangle& a, const Triangle& b) {
        return a.a[axis] + a.b[axis] + a.c[axis] < b.a[axis] + b.b[axis] + b.c[axis];
    });
    knot.second = place + 1 + knotsFor(half);
    const auto one = [&] { grow(place + 1, first, half); };
    const auto other = [&] { grow(knot.second, first + half, count - half); };
    constexpr std::uint32_t worthSharing = 20000;
    if (count > worthSharing)
        tbb::parallel_invoke(one, other);
    else
        one(), other();
    const Knot* parts[] = {&knots_[place + 1], &knots_[knot.second]};
    double weight = 0;
    for (const Knot* part : parts) {
        const double own = knots_[place + 1].area + knots_[knot.second].area > 0 ? part->area : part->count;
        knot.middle += own * part->middle, weight += own;
        knot.area += part->area, knot.normal += part->normal;
    }
    knot.middle /= weight;
    for (const Knot* part : parts) {
        const glm::dvec3 away = part->middle - knot.middle;
        knot.spread += part->spread + glm::outerProduct(away, part->normal);
        knot.reach = std::max(knot.reach, glm::length(away) + part->reach);
    }
}

double WindingNumber::at(const glm::dvec3& point) const {
    if (knots_.empty()) return 0;
    double near = 0, far = 0;           // of 2π, and of 4π
    std::array<std::uint32_t, 64> open; // halves are even, so that the tree is never as deep
    std::size_t waiting = 0;
    open[waiting++] = 0;
    while (waiting > 0) {
        const std::uint32_t place = open[--waiting];
        const Knot& knot = knots_[place];
        const glm::dvec3 to = knot.middle - point;
        const double square = glm::dot(to, to);
        if (square > farOff * farOff * knot.reach * knot.reach && square > 0) {
            const double cube = square * std::sqrt(square);
            far += glm::dot(to, knot.normal) / cube;
            // The derivative of r/|r|³, against how the normals lie about the middle.
            const double trace = knot.spread[0][0] + knot.spread[1][1] + knot.spread[2][2];
            far += trace / cube - 3 * glm::dot(to, knot.spread * to) / (cube * square);
        } else if (knot.second == 0) {
            for (std::uint32_t i = 0; i < knot.count; ++i) {
                const Triangle& t = triangles_[knot.first + i];
                near +=
                    halfSolidAngle(glm::dvec3(t.a) - point, glm::dvec3(t.b) - point, glm::dvec3(t.c) - point);
            }
        } else {
            open[waiting++] = place + 1;
            open[waiting++] = knot.second;
        }
    }
    return near / (2 * glm::pi<double>()) + far / (4 * glm::pi<double>());
}

} // namespace zl::geometry
