#include "core/contact/pieces_fit.h"

#include "core/geometry/line_crossings.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/world.h"

#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>

#include <algorithm>

namespace zl::contact {

namespace {

using geometry::Stretch;

double lengthOf(const std::vector<Stretch>& stretches) {
    double out = 0;
    for (const Stretch& one : stretches) out += one.to - one.from;
    return out;
}

struct Sums {
    double inside = 0, filled = 0, missing = 0, farthest = 0;
    std::size_t open = 0, lines = 0;

    void join(const Sums& other) {
        inside += other.inside, filled += other.filled, missing += other.missing;
        farthest = std::max(farthest, other.farthest);
        open += other.open, lines += other.lines;
    }
};

} // namespace

PiecesFit fitOf(const Mesh& mesh, std::span<const Mesh> pieces, const Progress& progress,
                const FitLines& lines) {
    PiecesFit fit;
    const Mesh bodies = geometry::merged({pieces.begin(), pieces.end()});
    auto bounds = geometry::meshBounds(mesh);
    bounds.add(geometry::meshBounds(bodies));
    if (bounds.empty() || mesh.triangleCount() == 0) return fit;
    const Mesh none;
    const geometry::RayScene surface(lines.distances ? mesh : none, true),
        bodySurface(lines.distances ? bodies : none, true);
    Sums all;
    for (int axis = 0; axis < 3; ++axis) {
        const auto grid = geometry::linesOver(bounds, axis, lines.alongLongest);
        if (grid.count() == 0) continue;
        const geometry::LineCrossings solid(mesh, grid, progress), filled(bodies, grid, progress);
        progress.report((axis + 0.3) / 3);
        const auto measure = [&](const tbb::blocked_range<std::size_t>& range, Sums sums) {
            std::vector<Stretch> inside, within, apart;
            for (std::size_t line = range.begin(); line != range.end(); ++line) {
                const bool known = solid.insideOf(line, inside) && filled.insideOf(line, within);
                sums.lines += !inside.empty() || !within.empty() || !known;
                if (!known) {
                    ++sums.open;
                    continue;
                }
                sums.inside += lengthOf(inside);
                const auto far = [&](const geometry::RayScene& from) {
                    for (const Stretch& one : lines.distances ? apart : std::vector<Stretch>())
                        for (const double at : {one.from, one.to})
                            sums.farthest = std::max(
                                sums.farthest, double(from.distanceTo(glm::vec3(grid.pointOf(line, at)))));
                    return lengthOf(apart);
                };
                geometry::takeAway(within, inside, apart);
                sums.filled += far(surface);
                geometry::takeAway(inside, within, apart);
                sums.missing += pieces.empty() ? lengthOf(apart) : far(bodySurface);
            }
            return sums;
        };
        Sums sums = tbb::parallel_deterministic_reduce(tbb::blocked_range<std::size_t>(0, grid.count(), 512),
                                                       Sums(), measure, [](Sums a, const Sums& b) {
                                                           a.join(b);
                                                           return a;
                                                       });
        progress.report((axis + 1) / 3.0);
        const double cell = grid.step * grid.step / 3; // the mean of three axes
        sums.inside *= cell, sums.filled *= cell, sums.missing *= cell;
        all.join(sums);
    }
    fit.volume = all.inside, fit.filled = all.filled, fit.missing = all.missing;
    fit.largestDistance = all.farthest;
    fit.unknown = all.lines > 0 ? double(all.open) / double(all.lines) : 0;
    return fit;
}

} // namespace zl::contact
