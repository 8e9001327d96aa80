#include "core/blocks/made.h"

#include "core/base/error.h"
#include "core/blocks/bridges.h"
#include "core/blocks/hollow.h"
#include "core/blocks/laid_over.h"
#include "core/blocks/paint.h"
#include "core/blocks/pieces.h"
#include "core/blocks/plane.h"
#include "core/blocks/sheets.h"
#include "core/contact/body_mesh.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_invoke.h>

namespace zl::blocks {

namespace {

constexpr int widestGap = 3; ///< blocks, over which what the model has in one piece is joined again

/// In metres of the hull, whose X is counted from a block's middle.
glm::dvec3 middleOf(glm::ivec3 cell, const Lattice& lattice) {
    return (glm::dvec3(cell + lattice.first) + glm::dvec3(0, 0.5, 0.5)) * lattice.edge;
}

/// Takes out strays, one entry for each piece that they were.
std::vector<Stray> straysOf(Build& build, std::size_t least, const Lattice& lattice) {
    const Pieces before = piecesOf(build);
    std::vector<Stray> all(before.blocks.size());
    for (const glm::ivec3& cell : dropStrays(build, least)) {
        const auto piece = std::size_t(before.of[indexIn(build.size(), cell)]);
        if (all[piece].blocks++ == 0) all[piece].at = middleOf(cell, lattice);
    }
    std::erase_if(all, [](const Stray& one) { return one.blocks == 0; });
    return all;
}

/// A quarter less than a whole model's bounds may be enough; nothing at all is not.
void demandSomething(const Build& build, const Lattice& lattice) {
    if (build.count() > 0) return;
    throw Error("nothing of it fills a block, even by half", {},
                lattice.size.x * lattice.size.y * lattice.size.z < 64 ? "Make it larger."
                                                                      : "Give thin parts one block.");
}

} // namespace

Made made(const Model& model, const Wanted& wanted, const Progress& progress) {
    const Mesh whole = contact::bodyMesh(model);
    if (whole.indices.empty()) throw Error("the model has no faces to build from", {}, "Bring one in.");
    Made out;
    out.objects = shownNodes(model).size();
    const geometry::Bounds bounds = geometry::meshBounds(whole);
    const Plane plane =
        wanted.plane ? Plane{*wanted.plane, unlikeAbout(whole, bounds, *wanted.plane, progress.silent())}
                     : planeOf(whole, bounds, progress.silent());
    out.plane = plane.x, out.unlike = plane.unlike;
    progress.report(0.15);
    const Lattice lattice = latticeFor(bounds, wanted.edge, wanted.size, plane.x);
    out.factor = lattice.factor, out.origin = lattice.origin;

    // The surface says what colours there are while its inside is filled.
    Filled full;
    Crossed crossed;
    Hull& hull = out.hull;
    hull.edge = wanted.edge, hull.first = lattice.first, hull.paints = wanted.paints;
    const auto fill = [&] {
        const Sides sides = sidesOf(geometry::transformed(whole, lattice.toBlocks), progress.silent());
        out.sheets = sides.sheetParts;
        full = filled(sides.bodies, lattice.size, sides.sheets, wanted.thin, progress.between(0.2, 0.7));
        if (wanted.halves) {
            Symmetric both = symmetric(full, wanted.slopes, *wanted.halves);
            hull.build = std::move(both.build), out.ofLeft = both.ofLeft, out.ofRight = both.ofRight;
        } else {
            hull.build = solidOf(full, wanted.slopes);
        }
    };
    tbb::parallel_invoke(
        fill, [&] { crossed = crossedCells(model, lattice.toBlocks, lattice.size, progress.silent()); });
    progress.report(0.75);
    out.unsure = full.unsure;
    for (const Samples one : full.cells) out.volume += misfitOfNone(one);
    demandSomething(hull.build, lattice);
    const bool mirrored = wanted.halves.has_value();
    if (piecesOf(hull.build).blocks.size() > 1) {
        out.bridges = bridgeEdges(hull.build, wanted.slopes, mirrored);
        out.strays = straysOf(hull.build, wanted.strays, lattice);
        out.bridges += bridgeAlong(hull.build, crossed, widestGap, mirrored);
    }
    tbb::parallel_invoke([&] { out.error = volumeError(hull.build, full); },
                         [&] { out.largest = largestDifference(hull.build, crossed.crossed); },
                         [&] {
                             out.withoutSlopes = wanted.slopes == Slopes::None
                                                     ? hull.build.count()
                                                     : solidOf(full, Slopes::None).count();
                         });
    out.largestAt = middleOf(out.largest.cell, lattice);
    if (wanted.wall > 0)
        out.hollowed =
            hollowOut(hull.build, wanted.wall, wanted.braces ? crossed.crossed : std::vector<char>());
    paint(hull.build, crossed, wanted.paints, mirrored);
    hull = trimmed(std::move(hull));
    progress.report(1);
    return out;
}

} // namespace zl::blocks
