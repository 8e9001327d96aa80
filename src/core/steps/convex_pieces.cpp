#include "core/steps/convex_pieces.h"

#include "core/base/words.h"
#include "core/contact/body_mesh.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/pieces_fit.h"
#include "core/contact/surfaces.h"
#include "core/geometry/clean.h"
#include "core/geometry/world.h"

#include <algorithm>
#include <limits>
#include <set>

namespace zl::steps {

namespace {

/// A convex body of c corners has at most 2 c − 4 triangles (Euler); fewer corners before fewer pieces.
void holdTriangles(contact::PiecesGoal& goal, int most) {
    constexpr int fewCorners = 8, fewTriangles = 2 * fewCorners - 4;
    goal.pieces = std::clamp(goal.pieces, 1, std::max(1, most / fewTriangles));
    goal.corners = std::clamp(goal.corners, 4, std::max(4, (most / goal.pieces + 4) / 2));
}

contact::PiecesGoal goalOf(const ConvexPieces& step, const std::vector<Collider>& already,
                           const platform::Sheet* sheet) {
    contact::PiecesGoal goal{.pieces = step.pieces, .corners = step.corners};
    if (step.goal == ConvexPieces::Goal::Number) return goal;
    goal = {};
    if (!sheet) return goal;
    for (const platform::RuleSpec* rule : sheet->rulesOf("collider-pieces")) {
        goal.pieces = std::max(1, int(rule->limit("most", goal.pieces)) - int(already.size()));
        goal.corners = std::max(4, int(rule->limit("corners", goal.corners)));
    }
    double triangles = 0;
    for (const Collider& body : already) triangles += double(body.mesh->triangleCount());
    for (const platform::RuleSpec* rule : sheet->rulesOf("collider-triangles"))
        holdTriangles(goal, int(std::clamp(rule->limit("most", 1e6) - triangles, 0.0, 1e6)));
    return goal;
}

nlohmann::json withChange(const ConvexPieces& step, ConvexPieces::Change change) {
    ConvexPieces changed = step;
    changed.changes.push_back(change);
    return {{"changes", fields::printed(ConvexPieces::fields, &changed).at("changes")}};
}

glm::dvec3 middleOf(const Mesh& piece) {
    return geometry::meshBounds(piece).centre();
}

/// The pairs that may be one: those whose boxes lie closest, as a common hull of others fills what is
/// between.
std::vector<std::pair<std::size_t, std::size_t>> nearestPairs(const std::vector<Mesh>& pieces) {
    constexpr std::size_t most = 64; // each costs a hull
    std::vector<geometry::Bounds> bounds;
    for (const Mesh& piece : pieces) bounds.push_back(geometry::meshBounds(piece));
    const auto apart = [&](std::size_t a, std::size_t b) { // of boxes, then of their middles
        const glm::dvec3 gap =
            glm::max(glm::max(bounds[a].min - bounds[b].max, bounds[b].min - bounds[a].max), glm::dvec3(0));
        return std::pair(glm::length(gap), glm::distance(bounds[a].centre(), bounds[b].centre()));
    };
    std::vector<std::pair<std::pair<double, double>, std::pair<std::size_t, std::size_t>>> all;
    for (std::size_t a = 0; a < pieces.size(); ++a)
        for (std::size_t b = a + 1; b < pieces.size(); ++b) all.push_back({apart(a, b), {a, b}});
    const std::size_t kept = std::min(all.size(), most);
    std::ranges::partial_sort(all, all.begin() + std::ptrdiff_t(kept));
    std::vector<std::pair<std::size_t, std::size_t>> out;
    for (std::size_t i = 0; i < kept; ++i) out.push_back(all[i].second);
    return out;
}

/// What is likely wanted next, each as a button, with pieces numbered behind the `before` that were there:
/// the pair whose common hull adds least, the smallest piece left out, and a plain shape where one is nearly
/// as good.
void offerChanges(const ConvexPieces& step, const std::vector<Mesh>& pieces, std::size_t before,
                  std::size_t corners, StepContext& context) {
    using What = contact::PieceChange::What;
    if (pieces.size() < 2) return;
    std::size_t first = 0, second = 1, smallest = 0;
    double least = std::numeric_limits<double>::max(), all = 0;
    std::vector<double> volumes;
    for (const Mesh& piece : pieces) all += volumes.emplace_back(geometry::signedVolume(piece));
    for (std::size_t a = 0; a < pieces.size(); ++a)
        if (volumes[a] < volumes[smallest]) smallest = a;
    for (const auto& [a, b] : nearestPairs(pieces)) {
        context.progress.checkCancel();
        const double added = geometry::signedVolume(contact::mergedPieces(pieces[a], pieces[b], corners)) -
                             volumes[a] - volumes[b];
        if (added < least) least = added, first = a, second = b;
    }
    const auto offer = [&](std::string words, What what, std::size_t at, std::size_t with) {
        ConvexPieces::Change change;
        change.what = what, change.at = middleOf(pieces[at]), change.with = middleOf(pieces[with]);
        context.offer(std::move(words), withChange(step, change));
    };
    offer(fmt::format("Merge {} and {}: {} % more is filled", before + first + 1, before + second + 1,
                      showNumber(100 * std::max(least, 0.0) / all, 1)),
          What::Merge, first, second);
    offer(fmt::format("Leave out {}: {} % of the volume", before + smallest + 1,
                      showNumber(100 * volumes[smallest] / all, 1)),
          What::LeaveOut, smallest, smallest);
    constexpr double asGood = 1.15;
    const std::pair<What, const char*> plain[] = {
        {What::Box, "box"}, {What::Cylinder, "cylinder"}, {What::Capsule, "capsule"}, {What::Ball, "ball"}};
    std::set<What> offered; // the first piece that each suits best
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (pieces[i].vertexCount() <= 8) continue;
        const std::pair<What, const char*>* best = nullptr;
        double more = asGood;
        for (const auto& shape : plain)
            if (const double volume =
                    geometry::signedVolume(contact::plainShape(pieces[i], shape.first, corners)) / volumes[i];
                volume < more)
                more = volume, best = &shape;
        if (!best || !offered.insert(best->first).second) continue;
        offer(fmt::format("Make a {} of {}: {} % larger", best->second, before + i + 1,
                          showNumber(100 * (more - 1), 1)),
              best->first, i, i);
    }
}

} // namespace

Model ConvexPieces::apply(const Model& in, StepContext& context) const {
    const auto chosen = context.chosenOrAll(in, of);
    const Mesh mesh = contact::bodyMesh(in, &chosen);
    if (mesh.triangleCount() == 0) {
        context.note("no body: the model has no faces");
        return in;
    }
    Model out = in;
    if (!beside) out.colliders.clear();
    const std::size_t before = out.colliders.size();
    const auto goalNow = goalOf(*this, out.colliders, context.sheet);
    auto pieces = contact::convexPieces(mesh, goalNow, context.progress.between(0, 0.9));
    contact::change(pieces, {changes.begin(), changes.end()}, std::size_t(goalNow.corners), context.notes);
    offerChanges(*this, pieces, before, std::size_t(goalNow.corners), context);
    const auto fit = contact::fitOf(mesh, pieces, context.progress.between(0.9, 1));
    std::size_t corners = 0;
    for (const Mesh& piece : pieces) {
        corners = std::max(corners, piece.vertexCount());
        out.colliders.push_back(
            {fmt::format("piece {}", out.colliders.size() + 1), "hull", std::make_shared<const Mesh>(piece)});
    }
    contact::surfacesOntoBodies(out);
    context.facts["pieces"] = pieces.size();
    context.facts["corners"] = corners;
    context.note(fmt::format("{} of at most {}", showCount(long(pieces.size()), "piece", "pieces"),
                             showCount(long(corners), "corner", "corners")));
    if (fit.unknown > 0.5) {
        context.note("the surface is open, so what is inside cannot be told");
        return out;
    }
    context.facts["filled"] = fit.filledShare();
    context.facts["missing"] = fit.missingShare();
    context.facts["largestDistance"] = fit.largestDistance;
    context.note(fmt::format("{} % filled too much, {} % missing, at most {} off",
                             showNumber(100 * fit.filledShare(), 1), showNumber(100 * fit.missingShare(), 1),
                             context.showLength(fit.largestDistance)));
    return out;
}

} // namespace zl::steps
