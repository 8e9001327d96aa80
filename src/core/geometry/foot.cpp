#include "core/geometry/foot.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

#include <cmath>
#include <numbers>

namespace zl::geometry {

namespace {

constexpr std::size_t trianglesAtOnce = 1 << 14, mostPoints = 1 << 13;

/// Points of the slice seen from above, thinned to their outline when they become many.
struct Slice {
    std::vector<glm::dvec2> points;
    Bounds bounds;

    void add(const glm::dvec3& p) {
        bounds.add(p);
        points.emplace_back(p.x, p.z);
    }
    void thin() {
        if (points.size() > mostPoints) points = convexOutline(std::move(points));
    }
    Slice& take(const Slice& other) {
        points.insert(points.end(), other.points.begin(), other.points.end());
        bounds.add(other.bounds);
        thin();
        return *this;
    }
};

/// What of the mesh lies at or below `top`.
Slice sliceOf(const Mesh& mesh, const glm::dmat4& matrix, double top) {
    const glm::dvec4 yRow(matrix[0][1], matrix[1][1], matrix[2][1], matrix[3][1]);
    const auto heightOf = [&](std::uint32_t v) { return glm::dot(yRow, glm::dvec4(mesh.positions[v], 1.0)); };
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_deterministic_reduce(
        Range(0, mesh.triangleCount(), trianglesAtOnce), Slice{},
        [&](const Range& range, Slice slice) {
            for (std::size_t t = range.begin(); t != range.end(); ++t) {
                const std::uint32_t* c = &mesh.indices[3 * t];
                const double y[3] = {heightOf(c[0]), heightOf(c[1]), heightOf(c[2])};
                if (!(y[0] <= top || y[1] <= top || y[2] <= top)) continue;
                glm::dvec3 p[3];
                for (int k = 0; k < 3; ++k) p[k] = glm::dvec3(matrix * glm::dvec4(mesh.positions[c[k]], 1.0));
                for (int k = 0; k < 3; ++k) {
                    const int n = (k + 1) % 3;
                    if (y[k] <= top) slice.add(p[k]);
                    if ((y[k] <= top) != (y[n] <= top))
                        slice.add(glm::mix(p[k], p[n], (top - y[k]) / (y[n] - y[k])));
                }
            }
            slice.thin();
            return slice;
        },
        [](Slice a, const Slice& b) { return std::move(a.take(b)); });
}

/// An outline of fewer points: the farthest in each of 720 directions, exact to 0.001 % of its size. A round
/// foot of a million corners has them all on its outline, and rounding leaves some along straight edges.
std::vector<glm::dvec2> thinned(const std::vector<glm::dvec2>& outline) {
    if (outline.empty()) return outline;
    constexpr int directions = 720;
    std::vector<glm::dvec2> far;
    for (int i = 0; i < directions; ++i) {
        const double angle = 2 * std::numbers::pi * i / directions;
        const glm::dvec2 way(std::cos(angle), std::sin(angle));
        far.push_back(
            *std::ranges::max_element(outline, {}, [&](const glm::dvec2& p) { return glm::dot(p, way); }));
    }
    return convexOutline(std::move(far));
}

} // namespace

Foot footOf(const Model& model, double share) {
    Foot foot;
    const Bounds all = worldBounds(model);
    if (all.empty()) return foot;
    foot.bottom = all.min.y;
    foot.sliceHeight = all.size().y * share;
    Slice slice;
    forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& matrix) {
        slice.take(sliceOf(mesh, matrix, foot.bottom + foot.sliceHeight));
    });
    foot.bounds = slice.bounds;
    foot.outline = thinned(convexOutline(std::move(slice.points)));
    foot.middle = middleOf(foot.outline);
    return foot;
}

} // namespace zl::geometry
