#include "core/motion/apart.h"

#include "core/geometry/world.h"
#include "core/motion/posed.h"

#include <algorithm>

namespace zl::motion {

namespace {

double farthest(const Mesh& a, const Mesh& b) {
    double most = 0;
    const std::size_t count = std::min(a.vertexCount(), b.vertexCount());
    for (std::size_t v = 0; v < count; ++v)
        most = std::max(most, double(glm::distance(a.positions[v], b.positions[v])));
    return most;
}

} // namespace

double farthestApartInClips(const Model& a, const Model& b, const Progress& progress, int moments) {
    Mesh posedA = geometry::flattened(a), posedB = geometry::flattened(b);
    double most = 0;
    const std::size_t clips = std::min(a.clips.size(), b.clips.size());
    for (std::size_t c = 0; c < clips; ++c) {
        const double length = lengthOf(*a.clips[c]);
        const int steps = length > 0 ? std::max(2, moments) : 1;
        for (int k = 0; k < steps; ++k) {
            progress.checkCancel();
            const double at = steps == 1 ? 0 : length * k / (steps - 1);
            poseFlattened(a, posed(a, *a.clips[c], at), posedA);
            poseFlattened(b, posed(b, *b.clips[c], at), posedB);
            most = std::max(most, farthest(posedA, posedB));
        }
    }
    return most;
}

double farthestApart(const Model& a, const Model& b, const Progress& progress, int moments) {
    return std::max(farthest(geometry::flattened(a), geometry::flattened(b)),
                    farthestApartInClips(a, b, progress, moments));
}

} // namespace zl::motion
