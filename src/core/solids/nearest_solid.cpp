#include "core/solids/nearest_solid.h"

#include "core/contact/principal_axes.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/world.h"
#include "core/solids/solid_mesh.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>
#include <optional>

namespace zl::solids {

namespace {

using Points = std::vector<glm::dvec3>;

constexpr std::size_t pointsOnSurface = 1500;
const int sidesMeasured = Scene().sides;
constexpr double sameWay = 0.9995;   ///< cosine of what looks the same way
constexpr double squareOn = 0.05;    ///< cosine of what is square on another
constexpr std::size_t mostWays = 64; ///< that faces of one surface are told apart by
constexpr double aroundFrom = 0.8;   ///< of the widest: what lies further out is what a circle goes through

double kept(double size) {
    return std::clamp(size, sizes.least, sizes.most);
}

/// Points all over a surface: on each triangle as many.
Points spreadOver(const Mesh& mesh) {
    const std::size_t triangles = mesh.triangleCount();
    const int along =
        std::clamp(int(std::lround(std::sqrt(2.0 * double(pointsOnSurface) / double(triangles)))), 1, 24);
    const std::size_t stride = std::max<std::size_t>(1, triangles / pointsOnSurface);
    Points out;
    for (std::size_t t = 0; t < triangles; t += stride) {
        const glm::dvec3 a = mesh.positions[mesh.indices[3 * t]], b = mesh.positions[mesh.indices[3 * t + 1]],
                         c = mesh.positions[mesh.indices[3 * t + 2]];
        for (int i = 0; i <= along; ++i)
            for (int j = 0; j <= along - i; ++j)
                out.push_back(a + (double(i) * (b - a) + double(j) * (c - a)) / double(along));
    }
    return out;
}

/// The way that each face looks, as long as its area.
Points lookingOf(const Mesh& mesh) {
    Points out;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a = mesh.positions[mesh.indices[3 * t]], b = mesh.positions[mesh.indices[3 * t + 1]],
                         c = mesh.positions[mesh.indices[3 * t + 2]];
        out.push_back(glm::cross(b - a, c - a) / 2.0);
    }
    return out;
}

/// Those that most area looks to, on either side, most first.
Points waysOf(const Points& looking) {
    struct Way {
        glm::dvec3 along;
        double area;
    };
    std::vector<std::size_t> order(looking.size());
    for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
    std::ranges::stable_sort(order, std::greater{},
                             [&](std::size_t k) { return glm::dot(looking[k], looking[k]); });
    std::vector<Way> ways;
    for (const std::size_t k : order) {
        const double area = glm::length(looking[k]);
        if (!(area > 0)) continue;
        const glm::dvec3 along = looking[k] / area;
        const auto same = std::ranges::find_if(
            ways, [&](const Way& way) { return std::abs(glm::dot(way.along, along)) > sameWay; });
        if (same != ways.end())
            same->area += area;
        else if (ways.size() < mostWays)
            ways.push_back({along, area});
    }
    std::ranges::stable_sort(ways, std::greater{}, &Way::area);
    Points out;
    for (const Way& way : ways) out.push_back(way.along);
    return out;
}

/// Three directions square on one another, turned and ordered so that they are as near to the world's as can
/// be: what stands level is then not turned at all.
glm::dmat3 nearWorld(const std::array<glm::dvec3, 3>& axes) {
    glm::dmat3 out(1);
    bool used[3] = {};
    for (const int k : {1, 0, 2}) {
        int best = -1;
        for (int i = 0; i < 3; ++i)
            if (!used[i] &&
                (best < 0 || std::abs(axes[std::size_t(i)][k]) > std::abs(axes[std::size_t(best)][k])))
                best = i;
        used[best] = true;
        const glm::dvec3& axis = axes[std::size_t(best)];
        out[k] = axis[k] < 0 ? -axis : axis;
    }
    out[2] = glm::cross(out[0], out[1]);
    return out;
}

std::vector<glm::dmat3> framesOf(const Mesh& mesh) {
    std::vector<glm::dmat3> out{glm::dmat3(1)};
    const Points looking = lookingOf(mesh);
    const Points ways = waysOf(looking);
    if (ways.empty()) return out;
    const auto square = std::ranges::find_if(
        ways, [&](const glm::dvec3& way) { return std::abs(glm::dot(way, ways[0])) < squareOn; });
    if (square != ways.end()) {
        const glm::dvec3 second = glm::normalize(*square - ways[0] * glm::dot(*square, ways[0]));
        out.push_back(nearWorld({ways[0], second, glm::cross(ways[0], second)}));
    }
    // Both ways of each, so that their mean is nothing.
    std::vector<glm::vec3> both;
    double largest = 0;
    for (const glm::dvec3& way : looking) largest = std::max(largest, glm::length(way));
    for (const glm::dvec3& way : looking) {
        const double area = glm::length(way);
        if (!(area > 0)) continue;
        const glm::vec3 weighed(way / area * std::sqrt(area / largest));
        both.push_back(weighed), both.push_back(-weighed);
    }
    for (const auto& axes : {contact::principalAxes(both), contact::principalAxes(mesh.positions)})
        if (axes) out.push_back(nearWorld(*axes));
    return out;
}

/// The circle that goes nearest through points of a plane: its middle, and how far they lie from it.
std::optional<glm::dvec3> circleThrough(const std::vector<glm::dvec2>& points) {
    Eigen::Matrix3d sums = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    for (const glm::dvec2& p : points) {
        const Eigen::Vector3d row(p.x, p.y, 1);
        sums += row * row.transpose();
        right += row * glm::dot(p, p);
    }
    const Eigen::FullPivLU<Eigen::Matrix3d> solver(sums);
    if (!solver.isInvertible()) return std::nullopt;
    const Eigen::Vector3d found = solver.solve(right);
    const double squared = found[2] + (found[0] * found[0] + found[1] * found[1]) / 4;
    if (!(squared > 0)) return std::nullopt;
    return glm::dvec3(found[0] / 2, found[1] / 2, std::sqrt(squared));
}

/// A shape that stands at a place of a frame.
struct Try {
    Kind kind;
    glm::dmat3 frame;
    glm::dvec3 middle; ///< in the world
    glm::dvec3 size;
    bool oval = false;
    double squares = 0; ///< of how far the surface's points lie from it, summed

    /// To the first order where it is oval.
    double distance(const glm::dvec3& point) const {
        const glm::dvec3 p = glm::transpose(frame) * (point - middle), half = size / 2.0;
        const auto beyondRound = [](const auto& at, const auto& radii) {
            const double scaled = glm::length(at / radii);
            return scaled > 0 ? glm::length(at) * (1 - 1 / scaled) : -radii.x;
        };
        if (kind == Kind::Ball) return std::abs(beyondRound(p, half));
        glm::dvec3 beyond = glm::abs(p) - half;
        if (kind == Kind::Cylinder)
            beyond.x = beyond.z = beyondRound(glm::dvec2(p.x, p.z), glm::dvec2(half.x, half.z));
        const double within = std::min(std::max({beyond.x, beyond.y, beyond.z}), 0.0);
        if (kind == Kind::Cylinder) beyond.z = 0;
        return std::abs(glm::length(glm::max(beyond, 0.0)) + within);
    }
};

glm::dvec3 middleOf(const Points& local, glm::dvec3& size) {
    geometry::Bounds bounds;
    for (const glm::dvec3& p : local) bounds.add(p);
    size = bounds.size();
    return bounds.centre();
}

Points seenFrom(const glm::dmat3& frame, const Points& points) {
    Points out;
    for (const glm::dvec3& p : points) out.push_back(glm::transpose(frame) * p);
    return out;
}

Try boxIn(const glm::dmat3& frame, const Points& corners) {
    glm::dvec3 size;
    const glm::dvec3 middle = middleOf(seenFrom(frame, corners), size);
    return {Kind::Box, frame, frame * middle, size};
}

/// Upright along the frame's Y.
Try cylinderIn(const glm::dmat3& frame, const Points& corners) {
    const Points local = seenFrom(frame, corners);
    glm::dvec3 size;
    glm::dvec3 middle = middleOf(local, size);
    double widest = 0;
    const auto from = [&](const glm::dvec3& p) {
        return glm::length(glm::dvec2(p.x - middle.x, p.z - middle.z));
    };
    for (const glm::dvec3& p : local) widest = std::max(widest, from(p));
    std::vector<glm::dvec2> around;
    for (const glm::dvec3& p : local)
        if (from(p) >= aroundFrom * widest) around.emplace_back(p.x - middle.x, p.z - middle.z);
    double radius = widest;
    if (const auto circle = circleThrough(around); circle && circle->z < 2 * widest)
        middle += glm::dvec3(circle->x, 0, circle->y), radius = circle->z;
    return {Kind::Cylinder, frame, frame * middle, {2 * radius, size.y, 2 * radius}};
}

/// The same, oval: as wide and as long as its box.
Try ovalIn(Kind kind, const glm::dmat3& frame, const Points& corners) {
    Try out = boxIn(frame, corners);
    out.kind = kind, out.oval = true;
    return out;
}

Try ballIn(const Points& corners) {
    glm::dvec3 size;
    const glm::dvec3 middle = middleOf(corners, size);
    double radius = 0;
    for (const glm::dvec3& p : corners) radius = std::max(radius, glm::distance(p, middle));
    return {Kind::Ball, glm::dmat3(1), middle, glm::dvec3(2 * radius)};
}

Solid solidOf(const Try& attempt) {
    Solid out;
    out.shape.kind = attempt.kind;
    out.shape.size = {kept(attempt.size.x), kept(attempt.size.y), kept(attempt.size.z)};
    out.at = attempt.middle;
    out.turn = degreesOf(glm::quat_cast(attempt.frame));
    return out;
}

/// How far points lie from a surface.
struct Apart {
    double furthest = 0, squares = 0;
};
Apart apart(const Points& points, const Mesh& surface) {
    const geometry::RayScene scene(surface, true);
    Apart out;
    std::uint32_t last = ~0u;
    for (const glm::dvec3& p : points) {
        const auto nearest = scene.nearestTo(p, last);
        const double distance = nearest.distance;
        out.furthest = std::max(out.furthest, distance), last = nearest.triangle;
        out.squares += distance * distance / double(points.size());
    }
    return out;
}

} // namespace

Nearest nearestSolid(const Mesh& whole) {
    // About its own middle, so that what stands far away is as exact.
    const glm::dvec3 middle = geometry::meshBounds(whole).centre();
    Mesh surface;
    surface.indices = whole.indices;
    for (const glm::vec3& p : whole.positions) surface.positions.emplace_back(glm::dvec3(p) - middle);
    const Points corners(surface.positions.begin(), surface.positions.end()), points = spreadOver(surface);

    std::vector<Try> tries{ballIn(corners)};
    for (const glm::dmat3& frame : framesOf(surface)) {
        tries.push_back(boxIn(frame, corners));
        tries.push_back(ovalIn(Kind::Ball, frame, corners));
        for (const glm::dmat3& upright :
             {frame, glm::dmat3(frame[1], -frame[0], frame[2]), glm::dmat3(frame[0], frame[2], -frame[1])}) {
            tries.push_back(cylinderIn(upright, corners));
            tries.push_back(ovalIn(Kind::Cylinder, upright, corners));
        }
    }
    // The first of each kind that its points lie nearest to; what it has and the surface has not is seen
    // from its own side.
    std::ranges::stable_sort(tries, {}, &Try::oval);
    std::map<Kind, Try> best;
    for (Try& attempt : tries) {
        for (const glm::dvec3& p : points) attempt.squares += std::pow(attempt.distance(p), 2);
        const auto [of, first] = best.try_emplace(attempt.kind, attempt);
        // Something oval always fits flats a little better than the circle that they were made around.
        const double better = attempt.oval && !of->second.oval ? 0.25 : 1 - 1e-6;
        if (!first && attempt.squares < of->second.squares * better) of->second = attempt;
    }
    std::optional<Nearest> out;
    double least = 0;
    for (const auto& [kind, attempt] : best) {
        Nearest one{solidOf(attempt)};
        const Mesh mesh = geometry::transformed(meshOf(one.solid.shape, sidesMeasured).mesh,
                                                placeOf(one.solid.at, one.solid.turn));
        const Apart there = apart(points, mesh), back = apart(spreadOver(mesh), surface);
        one.error = std::max(there.furthest, back.furthest);
        if (!out || there.squares + back.squares < least) out = one, least = there.squares + back.squares;
    }
    out->solid.at += middle;
    return *out;
}

} // namespace zl::solids
