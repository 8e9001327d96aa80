#include "measure.h"

#include "core/blocks/greedy_mesh.h"
#include "core/blocks/laid_over.h"
#include "core/blocks/made.h"
#include "core/contact/body_mesh.h"
#include "core/formats/format.h"
#include "peers/vhacd_peer.h"

#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

namespace bench {

void blockRows(const std::filesystem::path& stl) {
    // Lying, as ships do, so that its longest side is along.
    const Model bell =
        moved(formats::readModel(stl), glm::rotate(glm::dmat4(1), glm::half_pi<double>(), {0, 1, 0}));
    const glm::dvec3 size = geometry::worldBounds(bell).size();
    blocks::Wanted wanted;
    wanted.size.axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    wanted.size.value = 160;
    for (int i = 0; i < 16; ++i) wanted.paints.push_back({"paint", glm::vec3(float(i) / 15)});
    glm::ivec3 built(0);
    const double ours = middleSeconds([&] { built = blocks::made(bell, wanted).hull.build.size(); });
    const Mesh mesh = contact::bodyMesh(bell);
    // Its grid has cells of one size, as many along the shortest side as it makes of the number asked for.
    std::size_t asked = 1'000'000;
    peers::VhacdVoxels voxels;
    double peer = 0;
    for (int round = 0; round < 6; ++round) {
        const Stopwatch watch;
        voxels = peers::vhacdVoxels(mesh, asked);
        peer = watch.seconds();
        const double wish =
            double(built.x) * built.y * built.z / double(std::max<std::size_t>(1, voxels.cells));
        if (wish > 0.9 && wish < 1.1) break;
        asked = std::size_t(double(asked) * wish);
    }
    timeRow(
        fmt::format("0.8 M triangles as a build of {} × {} × {} blocks", built.x, built.y, built.z).c_str(),
        ours, fmt::format("V-HACD's bare voxel grid of {} cells, one core", voxels.cells).c_str(), peer,
        "1 s");

    // The same, squashed to what a platform takes: 96 × 64 × 160.
    const glm::dvec3 wish = glm::dvec3(94, 62, 160);
    const Model squashed = moved(bell, glm::scale(glm::dmat4(1), wish / size));
    wanted.size.axis = 2;
    const double within = middleSeconds([&] { built = blocks::made(squashed, wanted).hull.build.size(); });
    fmt::print("| the same squashed to {} × {} × {} | {:.3f} s | | | 1 s |\n", built.x, built.y, built.z,
               within);

    blocks::Hull full;
    full.edge = 0.25, full.first = {-48, 0, 0}, full.build = blocks::Build({97, 64, 160});
    for (std::size_t i = 0; i < full.build.cellCount(); ++i)
        full.build.put(blocks::cellIn(full.build.size(), i), {});
    blocks::Hull layer;
    layer.edge = 0.25, layer.build = blocks::Build({1, 1, 1}), layer.first = {0, 63, 80};
    layer.taken = {{0, 63, 81}};
    std::size_t triangles = 0;
    const double edit = middleSeconds(
        [&] { triangles = blocks::greedyMesh(blocks::laidOver(full, layer).hull).triangleCount(); });
    fmt::print(
        "| an edit of a full 97 × 64 × 160, until its {} triangles are there | {:.3f} s | | | 33 ms |\n",
        triangles, edit);
}

} // namespace bench
