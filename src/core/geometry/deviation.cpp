#include "core/geometry/deviation.h"

#include "core/geometry/ray_scene.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>

#include <algorithm>

namespace zl::geometry {

namespace {

struct Side {
    double largest = 0, sum = 0;
    std::size_t count = 0;
};

Side measure(const std::vector<glm::vec3>& points, const RayScene& to, const Progress& progress) {
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_reduce(
        Range(0, points.size(), 2048), Side{},
        [&](const Range& range, Side side) {
            std::uint32_t last = ~0u; // neighbours in the list are mostly neighbours in space
            for (std::size_t i = range.begin(); i != range.end(); ++i) {
                if (progress.isCancelled())
                    return side; // where all lies on one heap, a single point takes long
                const auto nearest = to.nearestTo(points[i], last);
                const double distance = nearest.distance;
                last = nearest.triangle;
                side.largest = std::max(side.largest, distance);
                side.sum += distance;
                ++side.count;
            }
            return side;
        },
        [](Side a, const Side& b) {
            return Side{std::max(a.largest, b.largest), a.sum + b.sum, a.count + b.count};
        });
}

/// Corners in use, at most `most` of them, evenly spread over the triangles.
std::vector<glm::vec3> samplePoints(const Mesh& mesh, std::size_t most, bool middles) {
    std::vector<glm::vec3> points;
    const std::size_t triangles = mesh.triangleCount();
    // On a closed mesh about every second triangle brings a new corner, so one corner a triangle is plenty.
    const double stride = std::max(1.0, double(triangles) / double(most));
    for (double at = 0; at < double(triangles); at += stride) {
        const auto t = static_cast<std::size_t>(at);
        const glm::vec3 a = mesh.positions[mesh.indices[3 * t]], b = mesh.positions[mesh.indices[3 * t + 1]],
                        c = mesh.positions[mesh.indices[3 * t + 2]];
        points.push_back(a);
        if (middles) points.push_back((a + b + c) / 3.0f);
    }
    return points;
}

} // namespace

Deviation deviationBetween(const Mesh& first, const Mesh& second, std::size_t samples,
                           const Progress& progress) {
    Deviation result;
    if (first.indices.empty() || second.indices.empty()) return result;
    progress.report(0, "measuring the deviation");
    const RayScene firstScene(first, true), secondScene(second, true);
    progress.report(0.3);
    const Side toSecond = measure(samplePoints(first, samples, false), secondScene, progress);
    progress.report(0.7);
    const Side toFirst = measure(samplePoints(second, samples, true), firstScene, progress);
    progress.report(1);
    result.largestToFirst = toFirst.largest;
    result.largestToSecond = toSecond.largest;
    result.largest = std::max(toFirst.largest, toSecond.largest);
    result.mean = (toFirst.sum / double(std::max<std::size_t>(1, toFirst.count)) +
                   toSecond.sum / double(std::max<std::size_t>(1, toSecond.count))) /
                  2;
    result.samples = toFirst.count + toSecond.count;
    return result;
}

std::vector<float> triangleDeviation(const Mesh& mesh, const Mesh& reference, std::size_t samples,
                                     const Progress& progress) {
    std::vector<float> result(mesh.triangleCount(), 0.0f);
    if (reference.indices.empty() || mesh.indices.empty()) return result;
    const RayScene own(mesh), other(reference);
    progress.report(0.3);
    tbb::parallel_for(std::size_t(0), result.size(), [&](std::size_t t) {
        if (progress.isCancelled()) return;
        glm::vec3 middle(0.0f);
        for (int k = 0; k < 3; ++k) middle += mesh.positions[mesh.indices[3 * t + k]] / 3.0f;
        result[t] = other.distanceTo(middle);
    });
    progress.report(0.5);
    const auto points = samplePoints(reference, samples, false);
    std::vector<RayScene::Nearest> nearest(points.size());
    tbb::parallel_for(std::size_t(0), points.size(), [&](std::size_t i) {
        if (!progress.isCancelled()) nearest[i] = own.nearestTo(points[i]);
    });
    progress.checkCancel();
    for (const auto& n : nearest) result[n.triangle] = std::max(result[n.triangle], n.distance);
    progress.report(1);
    return result;
}

} // namespace zl::geometry
