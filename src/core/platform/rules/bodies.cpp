// Rules about the bodies that physics uses: whether there is one, of how many convex pieces, and what it
// makes solid that is not.
#include "core/platform/rules/all_rules.h"

#include "core/contact/body_mesh.h"
#include "core/contact/convex_hull.h"
#include "core/contact/pieces_fit.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

namespace {

Mesh inWorld(const Collider& collider) {
    return geometry::transformed(*collider.mesh, collider.placement);
}

} // namespace

Finding measureColliderPresent(const Measures& m, const Sheet&, const RuleSpec&) {
    const auto& colliders = m.model().colliders;
    Finding finding;
    finding.holds = !colliders.empty();
    finding.measured = colliders.empty() ? "none" : showCount(long(colliders.size()), "body", "bodies");
    finding.limit = "there";
    finding.note = colliders.empty() ? "Nothing stands for it in physics: things pass through"
                                     : fmt::format("Physics has {} for it", finding.measured);
    return finding;
}

Finding measureColliderPieces(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const auto& colliders = m.model().colliders;
    const double most = rule.limit("most", 10), mostCorners = rule.limit("corners", 64);
    Finding finding = atMost(double(colliders.size()), most, "piece", "pieces");
    if (colliders.empty()) {
        finding.measured = "none";
        finding.note = "There is no body of its own";
        return finding;
    }
    for (const Collider& collider : colliders) {
        if (collider.kind == "mesh") {
            finding.holds = false;
            finding.measured = "hollow";
            finding.note = fmt::format("\"{}\" is a surface and no convex piece", collider.name);
            return finding;
        }
        if (double(collider.mesh->vertexCount()) <= mostCorners) continue;
        finding.holds = false;
        finding.measured = fmt::format("{} corners", collider.mesh->vertexCount());
        finding.limit = fmt::format("of {} a piece", mostCorners);
        finding.note = fmt::format("\"{}\" has {} corners", collider.name, collider.mesh->vertexCount());
        return finding;
    }
    return finding;
}

Finding measureHollowFilled(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0.5);
    Finding finding;
    finding.limit = fmt::format("up to {} %", showNumber(100 * most));
    std::vector<Mesh> pieces;
    for (const Collider& collider : m.model().colliders) {
        if (collider.kind == "mesh") {
            finding.measured = "open";
            finding.note = "Physics uses a surface, and what is hollow stays open";
            return finding;
        }
        pieces.push_back(inWorld(collider));
    }
    const Mesh mesh = contact::bodyMesh(m.model());
    const bool own = !pieces.empty();
    if (!own)
        if (auto hull = contact::convexHull(mesh.positions)) pieces.push_back(std::move(*hull));
    const auto fit = contact::fitOf(mesh, pieces, {}, {.distances = false});
    if (!(fit.volume > 0) || fit.unknown > 0.5) {
        finding.measured = "not known";
        finding.canBeTight = false;
        finding.note = "Its surface is open, so what is inside cannot be told";
        return finding;
    }
    const double share = fit.filledShare();
    finding.value = 100 * share;
    finding.measured = fmt::format("{} %", showNumber(100 * share, 1));
    finding.share = most > 0 ? share / most : 0;
    finding.holds = share <= most;
    finding.note = fmt::format("{} makes {} % of its volume solid that is open",
                               own ? "Its body" : "Without a body of its own it is one convex piece, which",
                               showNumber(100 * share, 1));
    return finding;
}

} // namespace zl::platform
