#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <vector>

namespace zl::contact {

struct PiecesGoal {
    int pieces = 10;  ///< at most, 1 or more
    int corners = 64; ///< of a piece, at most, 4 or more
    /// Triangles that a finer mesh is reduced to before it is taken apart.
    std::size_t triangles = 6000;
};

/// Convex bodies that together fill what a mesh encloses, by falling volume, never more or with more corners
/// than the goal allows, and fewer where more would gain nothing. The mesh is cut by planes into more parts
/// than wanted (cut_parts.h), and those are joined again whose common hull adds least, as in hierarchical
/// decompositions (Lien and Amato 2007; Mamou and Ghorbel 2009). It need not be closed. The same on every
/// run. Throws Error when it has no extent.
std::vector<Mesh> convexPieces(const Mesh& mesh, const PiecesGoal& goal, const Progress& progress = {});

/// Two bodies as the one around both, of at most `corners` corners.
Mesh mergedPieces(const Mesh& a, const Mesh& b, std::size_t corners);

/// A hull with at most so many corners: those that stand out farthest, moved outward to make up for what they
/// cut off, but not past the hull's bounds.
Mesh withCorners(const Mesh& hull, std::size_t most);

} // namespace zl::contact
