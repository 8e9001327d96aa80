#include "core/contact/changed_pieces.h"

#include "core/contact/convex_hull.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/plain_shapes.h"

#include <fmt/format.h>

#include <algorithm>
#include <limits>

namespace zl::contact {

int pieceAt(const std::vector<Mesh>& pieces, const glm::dvec3& point) {
    int found = -1;
    double least = std::numeric_limits<double>::max();
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (const double out = outsideOf(pieces[i], point); out < least) least = out, found = int(i);
    return found;
}

Mesh plainShape(const Mesh& piece, PieceChange::What shape, std::size_t corners) {
    using What = PieceChange::What;
    constexpr std::size_t ofCapsule = 24;
    if (shape == What::Box) return boxAround(piece);
    if (shape == What::Ball) return ballAround(piece, corners);
    return shape == What::Capsule && corners >= ofCapsule ? capsuleAround(piece, corners)
                                                          : cylinderAround(piece, corners);
}

void change(std::vector<Mesh>& pieces, const std::vector<PieceChange>& changes, std::size_t corners,
            std::vector<std::string>& notes) {
    for (const PieceChange& one : changes) {
        const int at = pieceAt(pieces, one.at);
        if (at < 0) return;
        Mesh& piece = pieces[std::size_t(at)];
        switch (one.what) {
        case PieceChange::What::Box:
        case PieceChange::What::Cylinder:
        case PieceChange::What::Ball:
        case PieceChange::What::Capsule:
            piece = plainShape(piece, one.what, corners);
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
