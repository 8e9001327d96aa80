#include "core/contact/changed_pieces.h"

#include "core/contact/convex_hull.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/principal_axes.h"
#include "core/geometry/clean.h"
#include "core/geometry/solids.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <limits>

namespace zl::contact {

namespace {

/// A box on three axes that stand square on one another, right-handed.
Mesh boxOn(const Mesh& body, const std::array<glm::dvec3, 3>& axes) {
    geometry::Bounds bounds;
    const glm::dmat3 onto(axes[0], axes[1], axes[2]);
    for (const glm::vec3& p : body.positions) bounds.add(glm::transpose(onto) * glm::dvec3(p));
    const Mesh box = geometry::transformed(geometry::boxMesh(bounds.min, bounds.max), glm::dmat4(onto));
    if (auto hull = convexHull(box.positions)) return std::move(*hull);
    return body;
}

} // namespace

int pieceAt(const std::vector<Mesh>& pieces, const glm::dvec3& point) {
    int found = -1;
    double least = std::numeric_limits<double>::max();
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (const double out = outsideOf(pieces[i], point); out < least) least = out, found = int(i);
    return found;
}

Mesh boxAround(const Mesh& body) {
    Mesh best = boxOn(body, {glm::dvec3(1, 0, 0), glm::dvec3(0, 1, 0), glm::dvec3(0, 0, 1)});
    if (const auto axes = principalAxes(body.positions)) {
        Mesh turned = boxOn(body, *axes);
        if (geometry::signedVolume(turned) < 0.999 * geometry::signedVolume(best)) best = std::move(turned);
    }
    return best;
}

void change(std::vector<Mesh>& pieces, const std::vector<PieceChange>& changes, std::size_t corners,
            std::vector<std::string>& notes) {
    for (const PieceChange& one : changes) {
        const int at = pieceAt(pieces, one.at);
        if (at < 0) return;
        Mesh& piece = pieces[std::size_t(at)];
        switch (one.what) {
        case PieceChange::What::Box:
            piece = boxAround(piece);
            break;
        case PieceChange::What::LeaveOut:
            if (pieces.size() > 1)
                pieces.erase(pieces.begin() + at);
            else
                notes.emplace_back("the last piece stays");
            break;
        case PieceChange::What::Merge: {
            const int with = pieceAt(pieces, one.with);
            if (with == at) {
                notes.push_back(fmt::format("piece {} is not merged: both places lie in it", at + 1));
                break;
            }
            piece = mergedPieces(piece, pieces[std::size_t(with)], corners);
            pieces.erase(pieces.begin() + with);
            break;
        }
        }
    }
}

} // namespace zl::contact
