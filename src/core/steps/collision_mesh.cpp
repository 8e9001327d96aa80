#include "core/steps/collision_mesh.h"

#include "core/base/words.h"
#include "core/contact/body_mesh.h"
#include "core/contact/convex_hull.h"
#include "core/contact/pieces_fit.h"
#include "core/contact/surfaces.h"
#include "core/geometry/clean.h"
#include "core/geometry/deviation.h"
#include "core/geometry/reduce.h"
#include "core/geometry/weld.h"

#include <algorithm>

namespace zl::steps {

namespace {

std::size_t mostFaces(const CollisionMesh& step, const platform::Sheet* sheet) {
    if (step.goal == CollisionMesh::Goal::Number) return std::size_t(step.number);
    std::size_t most = 0;
    if (sheet)
        for (const platform::RuleSpec* rule : sheet->rulesOf("collider-triangles"))
            most = std::size_t(std::max(4.0, rule->limit("most", 0)));
    return most;
}

} // namespace

Model CollisionMesh::apply(const Model& in, StepContext& context) const {
    Mesh source;
    if (from == From::Other) {
        source = contact::bodyMesh(*context.input(other).model);
    } else {
        const auto chosen = context.chosenOrAll(in, of);
        source = contact::bodyMesh(in, &chosen);
    }
    if (source.triangleCount() == 0) {
        context.note("no collision mesh: there are no faces");
        return in;
    }
    // Joined by place: pictures and normals, whose borders keep corners apart, are nothing to physics.
    Mesh mesh = geometry::weld(source, 0, context.progress.between(0, 0.1)).mesh;
    const std::size_t most = mostFaces(*this, context.sheet);
    if (most > 0 && mesh.triangleCount() > most)
        mesh = geometry::reduce(mesh, {.triangles = most}, context.progress.between(0.1, 0.6));
    if (most > 0 && mesh.triangleCount() > most)
        context.fellShort(fmt::format("{} stay, {} are wanted; the shape lets no more go",
                                      showCount(long(mesh.triangleCount()), "face", "faces"), most));
    const auto off = geometry::deviationBetween(source, mesh, 40000, context.progress.between(0.6, 0.9));
    context.facts["triangles"] = mesh.triangleCount();
    context.facts["largestDistance"] = off.largest;
    context.note(fmt::format("{}, at most {} off", showCount(long(mesh.triangleCount()), "face", "faces"),
                             context.showLength(off.largest)));
    if (const auto hull = contact::convexHull(source.positions)) {
        const auto fit = contact::fitOf(source, std::span(&*hull, 1), context.progress.between(0.9, 1),
                                        {.distances = false});
        if (fit.volume > 0 && fit.unknown < 0.5) {
            context.facts["hullFilled"] = fit.filledShare();
            context.note(fmt::format("as one convex piece {} % would be filled that is open",
                                     showNumber(100 * fit.filledShare(), 1)));
        }
    }
    Model out = in;
    if (from == From::Other) bringSurfaces(mesh, *context.input(other).model, out);
    const bool itsOwn = !mesh.surfaces.empty();
    out.colliders = {{"collision", "mesh", std::make_shared<const Mesh>(std::move(mesh))}};
    if (!itsOwn) contact::surfacesOntoBodies(out);
    return out;
}

} // namespace zl::steps
