#pragma once
#include "core/model/mesh.h"

#include <string>
#include <vector>

namespace zl::contact {

/// What somebody wants otherwise about pieces. They are meant by points within them, for their numbers change
/// with the model.
struct PieceChange {
    enum class What { Merge, LeaveOut, Box, Cylinder, Ball, Capsule };
    What what = What::Merge;
    glm::dvec3 at{0};   ///< in the piece that is meant, or nearest to it
    glm::dvec3 with{0}; ///< in the other one, of those that are merged
};

/// The index of the piece that holds a point, or is nearest to it; -1 where there are none.
int pieceAt(const std::vector<Mesh>& pieces, const glm::dvec3& point);

/// A piece as a plain shape around it (plain_shapes.h); a capsule needs 24 corners, and is a cylinder where
/// there may not be so many.
Mesh plainShape(const Mesh& piece, PieceChange::What shape, std::size_t corners);

/// Makes the changes in their order. What cannot be done, such as merging a piece with itself, is left, and
/// `notes` says so. Merged pieces have at most `corners` corners, and stand where the first stood.
void change(std::vector<Mesh>& pieces, const std::vector<PieceChange>& changes, std::size_t corners,
            std::vector<std::string>& notes);

} // namespace zl::contact
