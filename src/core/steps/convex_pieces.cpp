#include "core/steps/convex_pieces.h"

#include "core/base/words.h"
#include "core/contact/body_mesh.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/pieces_fit.h"

#include <algorithm>
#include <cmath>

namespace zl::steps {

namespace {

contact::PiecesGoal goalOf(const ConvexPieces& step, std::size_t already, const platform::Sheet* sheet) {
    contact::PiecesGoal goal{.pieces = step.pieces, .corners = step.corners};
    if (step.goal == ConvexPieces::Goal::Number) return goal;
    goal = {};
    if (!sheet) return goal;
    for (const platform::RuleSpec* rule : sheet->rulesOf("collider-pieces")) {
        goal.pieces = std::max(1, int(rule->limit("most", goal.pieces)) - int(already));
        goal.corners = std::max(4, int(rule->limit("corners", goal.corners)));
    }
    return goal;
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
    const auto goalNow = goalOf(*this, out.colliders.size(), context.sheet);
    const auto pieces = contact::convexPieces(mesh, goalNow, context.progress.between(0, 0.9));
    const auto fit = contact::fitOf(mesh, pieces, context.progress.between(0.9, 1));
    std::size_t corners = 0;
    for (const Mesh& piece : pieces) {
        corners = std::max(corners, piece.vertexCount());
        out.colliders.push_back(
            {fmt::format("piece {}", out.colliders.size() + 1), "hull", std::make_shared<const Mesh>(piece)});
    }
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
