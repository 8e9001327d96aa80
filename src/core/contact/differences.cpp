#include "core/contact/differences.h"

#include "core/geometry/line_crossings.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/world.h"

namespace zl::contact {

Differences differencesOf(const Mesh& mesh, std::span<const Mesh> bodies, int alongLongest,
                          const Progress& progress) {
    using geometry::Stretch;
    Differences out;
    const Mesh body = geometry::merged({bodies.begin(), bodies.end()});
    auto bounds = geometry::meshBounds(mesh);
    bounds.add(geometry::meshBounds(body));
    if (bounds.empty() || mesh.triangleCount() == 0) return out;
    std::vector<Stretch> inside, within, apart;
    for (int axis = 0; axis < 3; ++axis) {
        progress.report(axis / 3.0);
        const auto grid = geometry::linesOver(bounds, axis, alongLongest);
        if (grid.count() == 0) continue;
        const geometry::LineCrossings solid(mesh, grid, progress), filled(body, grid, progress);
        for (std::size_t line = 0; line < grid.count(); ++line) {
            if (!solid.insideOf(line, inside) || !filled.insideOf(line, within)) continue;
            const auto add = [&](const auto& of, const auto& without, std::vector<glm::vec3>& to) {
                geometry::takeAway(of, without, apart);
                for (const Stretch& one : apart)
                    if (one.to - one.from > 0.5 * grid.step)
                        to.insert(to.end(), {glm::vec3(grid.pointOf(line, one.from)),
                                             glm::vec3(grid.pointOf(line, one.to))});
            };
            add(within, inside, out.filled);
            add(inside, within, out.missing);
        }
    }
    return out;
}

} // namespace zl::contact
