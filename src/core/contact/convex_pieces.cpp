#include "core/contact/convex_pieces.h"

#include "core/base/error.h"
#include "core/contact/convex_hull.h"
#include "core/contact/cut_parts.h"
#include "core/contact/pieces_fit.h"
#include "core/contact/rough_hull.h"
#include "core/contact/support_points.h"
#include "core/geometry/clean.h"
#include "core/geometry/reduce.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

namespace zl::contact {

namespace {

Mesh bare(const Mesh& mesh) {
    Mesh out;
    out.positions = mesh.positions;
    out.indices = mesh.indices;
    out.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return out;
}

/// What is flat has no hull; a hundredth of its size makes a body of it, so that things do not pass through.
Mesh thickHull(std::vector<glm::vec3> points, double size) {
    if (auto hull = convexHull(points)) return *hull;
    const auto flat = points;
    for (const glm::vec3& p : flat)
        for (int k = 0; k < 3; ++k)
            for (const double by : {-0.005, 0.005}) {
                glm::vec3 beside = p;
                beside[k] += float(by * size);
                points.push_back(beside);
            }
    if (auto hull = convexHull(points)) return *hull;
    throw Error("has no extent that a body could be made of", {}, "Choose other parts.");
}

/// A hull and the pieces that it holds.
struct Body {
    Mesh hull;
    double volume = 0;
    SupportPoints far;
};

Body bodyOf(Mesh hull) {
    const double volume = geometry::signedVolume(hull);
    SupportPoints far;
    for (const glm::vec3& p : hull.positions) far.add(p);
    return {std::move(hull), volume, far};
}

std::optional<Mesh> hullAround(const Mesh& a, const Mesh& b) {
    auto points = a.positions;
    points.insert(points.end(), b.positions.begin(), b.positions.end());
    return convexHull(points);
}

Body around(const Body& a, const Body& b) {
    auto hull = hullAround(a.hull, b.hull);
    return hull ? bodyOf(std::move(*hull)) : a;
}

/// Joins the two whose common hull adds least, again and again: until there are no more than `most`, and then
/// as long as it adds no more than `free`. Hulls are made only of pairs that may be the next: how much one
/// adds at least is known sooner.
class Joining {
public:
    Joining(std::vector<Body> bodies, const Progress& progress)
        : bodies_(std::move(bodies)), progress_(progress) {
        const std::size_t n = bodies_.size();
        adds_.assign(n, std::vector<Added>(n));
        tbb::parallel_for(std::size_t(0), n, [&](std::size_t a) {
            for (std::size_t b = a + 1; b < n; ++b) adds_[a][b] = guessed(a, b);
        });
    }

    std::vector<Body> downTo(std::size_t most, double free) {
        const auto first = double(bodies_.size());
        while (bodies_.size() > 1) {
            progress_.report(1 - double(bodies_.size()) / first);
            const auto [a, b] = next();
            const double adds = adds_[a][b].volume;
            if (bodies_.size() <= most && adds > free) break;
            if (adds == apart) { // none touches another any more
                joinsAnything_ = true;
                for (std::size_t i = 0; i < bodies_.size(); ++i)
                    for (std::size_t k = i + 1; k < bodies_.size(); ++k) adds_[i][k] = guessed(i, k);
                continue;
            }
            join(a, b);
        }
        return std::move(bodies_);
    }

private:
    static constexpr double apart = 1e300;

    /// What a common hull adds: exactly, or at least.
    struct Added {
        double volume = 0;
        bool exact = true;
    };

    /// The pair that adds least, the first of those that do.
    std::pair<std::size_t, std::size_t> next() {
        for (;;) {
            std::size_t a = 0, b = 1;
            for (std::size_t i = 0; i < bodies_.size(); ++i)
                for (std::size_t k = i + 1; k < bodies_.size(); ++k)
                    if (adds_[i][k].volume < adds_[a][b].volume) a = i, b = k;
            if (adds_[a][b].exact) return {a, b};
            adds_[a][b] = {added(a, b), true};
        }
    }

    bool touch(std::size_t a, std::size_t b) const {
        constexpr double gap = 0.01;
        const auto one = geometry::meshBounds(bodies_[a].hull), other = geometry::meshBounds(bodies_[b].hull);
        return glm::all(glm::lessThanEqual(one.min, other.max + gap)) &&
               glm::all(glm::lessThanEqual(other.min, one.max + gap));
    }

    double added(std::size_t a, std::size_t b) const {
        // Less than nothing where they overlap; to join those is no gain either, for what is counted twice
        // is as far from the shape as what is filled too much.
        return std::abs(around(bodies_[a], bodies_[b]).volume - bodies_[a].volume - bodies_[b].volume);
    }

    /// At least how much, by the hull of their farthest points, which the common one holds.
    Added guessed(std::size_t a, std::size_t b) const {
        if (!joinsAnything_ && !touch(a, b)) return {apart, true};
        SupportPoints both = bodies_[a].far;
        both.add(bodies_[b].far);
        constexpr double surely = 0.9999; // neither volume is true to the last digit
        const double least = surely * roughHullVolume(both.points());
        return {std::max(0.0, least - bodies_[a].volume - bodies_[b].volume), false};
    }

    void join(std::size_t a, std::size_t b) {
        bodies_[a] = around(bodies_[a], bodies_[b]);
        bodies_.erase(bodies_.begin() + std::ptrdiff_t(b));
        adds_.erase(adds_.begin() + std::ptrdiff_t(b));
        for (auto& row : adds_) row.erase(row.begin() + std::ptrdiff_t(b));
        tbb::parallel_for(std::size_t(0), bodies_.size(), [&](std::size_t i) {
            if (i != a) adds_[std::min(i, a)][std::max(i, a)] = guessed(i, a);
        });
    }

    std::vector<Body> bodies_;
    std::vector<std::vector<Added>> adds_;
    bool joinsAnything_ = false;
    const Progress& progress_;
};

std::vector<Body> cutAndJoined(const Mesh& mesh, std::size_t most, CutGoal goal, const Progress& progress) {
    goal.parts = std::clamp<std::size_t>(goal.parts, 24, 240);
    std::vector<Body> bodies;
    double all = 0;
    for (CutPart& part : cutApart(mesh, goal, progress.between(0, 0.7))) {
        bodies.push_back(bodyOf(std::move(part.hull)));
        all += bodies.back().volume;
    }
    constexpr double free = 0.0005;
    return Joining(std::move(bodies), progress.between(0.7, 1)).downTo(most, free * all);
}

double wrongVolume(const Mesh& mesh, const std::vector<Body>& bodies) {
    std::vector<Mesh> pieces;
    for (const Body& body : bodies) pieces.push_back(body.hull);
    const auto fit = fitOf(mesh, pieces, {}, {.alongLongest = 80, .distances = false});
    return fit.filled + fit.missing;
}

} // namespace

Mesh mergedPieces(const Mesh& a, const Mesh& b, std::size_t corners) {
    const auto hull = hullAround(a, b);
    return hull ? withCorners(*hull, corners) : a;
}

Mesh withCorners(const Mesh& hull, std::size_t most) {
    if (most < 4 || hull.vertexCount() <= most) return hull;
    const auto coarse = convexHull(hull.positions, most);
    if (!coarse) return hull;
    const double whole = geometry::signedVolume(hull), left = geometry::signedVolume(*coarse);
    if (!(left > 0)) return *coarse;
    // What was cut off everywhere is given back by growing, but never past the sides, so that what stands on
    // the floor stands on it.
    const auto bounds = geometry::meshBounds(hull);
    const glm::dvec3 middle = bounds.centre();
    Mesh best = *coarse;
    double bestOff = whole - left;
    for (const double share : {0.25, 0.5, 0.75, 1.0}) {
        const double by = 1 + share * (std::cbrt(whole / left) - 1);
        auto points = coarse->positions;
        for (glm::vec3& p : points)
            p = glm::vec3(glm::clamp(middle + by * (glm::dvec3(p) - middle), bounds.min, bounds.max));
        auto grown = convexHull(points, most);
        if (!grown) continue;
        // Of what it fills too much and what is missing, only the sum can be had from volumes: both together
        // are within the hull of both.
        const auto both = hullAround(hull, *grown);
        if (!both) continue;
        const double all = geometry::signedVolume(*both);
        const double off = 2 * all - whole - geometry::signedVolume(*grown);
        if (off < bestOff) bestOff = off, best = std::move(*grown);
    }
    return best;
}

std::vector<Mesh> convexPieces(const Mesh& mesh, const PiecesGoal& goal, const Progress& progress) {
    const auto bounds = geometry::meshBounds(mesh);
    const double size = glm::length(bounds.size());
    if (mesh.triangleCount() == 0 || !(size > 0) || !std::isfinite(size))
        throw Error("has no extent that a body could be made of", {}, "Choose other parts.");
    const auto corners = std::size_t(std::max(goal.corners, 4)), most = std::size_t(std::max(goal.pieces, 1));
    // About the middle and of size 1, so that nothing hangs on where it stands and in what unit.
    const glm::dvec3 middle = bounds.centre();
    Mesh work = bare(mesh);
    for (glm::vec3& p : work.positions) p = glm::vec3((glm::dvec3(p) - middle) / size);
    std::vector<Body> bodies;
    if (most > 1) {
        work = geometry::weld(work, 0, progress.between(0, 0.05)).mesh;
        if (work.triangleCount() > goal.triangles)
            work = geometry::reduce(work, {.triangles = goal.triangles}, progress.between(0.05, 0.3));
        // Ways of cutting; none is the best for all shapes.
        constexpr struct {
            double across;
            bool alongFaces;
            std::size_t parts; // for each that is wanted
            double from, to;   // of the progress
        } ways[] = {{0.1, true, 4, 0.3, 0.45},
                    {0.05, false, 6, 0.45, 0.65},
                    {0.1, false, 4, 0.65, 0.8},
                    {0.15, false, 6, 0.8, 1}};
        double least = 0;
        for (const auto& way : ways) {
            auto found = cutAndJoined(
                work, most, {.parts = way.parts * most, .across = way.across, .alongFaces = way.alongFaces},
                progress.between(way.from, way.to));
            const double now = wrongVolume(work, found);
            if (bodies.empty() || now < least) bodies = std::move(found), least = now;
            constexpr double exact = 1e-4;
            if (least < exact) break;
        }
    }
    if (bodies.empty()) bodies.push_back(bodyOf(thickHull(work.positions, 1)));
    std::stable_sort(bodies.begin(), bodies.end(),
                     [](const Body& a, const Body& b) { return a.volume > b.volume; });
    std::vector<Mesh> out;
    for (const Body& body : bodies) {
        Mesh piece = withCorners(body.hull, corners);
        for (glm::vec3& p : piece.positions) p = glm::vec3(glm::dvec3(p) * size + middle);
        // Rounding may have put a corner into the hull of the others.
        auto rounded = convexHull(piece.positions, corners);
        out.push_back(rounded ? std::move(*rounded) : std::move(piece));
    }
    progress.report(1);
    return out;
}

} // namespace zl::contact
