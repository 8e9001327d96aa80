#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// Index (0–2) of the corner opposite the longest edge when the triangle is lower than `tolerance` (mesh
/// units) over it, or lower than one millionth of it; -1 else.
int sliverCorner(const Mesh& mesh, std::size_t triangle, double tolerance);

struct TurnedSlivers {
    Mesh mesh;
    std::size_t taken = 0; ///< slivers that are no more
    std::size_t kept = 0;  ///< slivers that every way of taking them out would have made others of
};

/// Takes slivers out without opening a gap: a sliver (a b c) whose corner c lies on its longest edge a–b
/// goes, and what is across that edge is cut in two at c, in its own direction and with its own material.
/// Where both sides of the edge share corners, c itself serves; across a seam (of UVs, normals, materials …)
/// the neighbour gets a corner of its own there, between its a and b. A sliver with nothing across its
/// longest edge is dropped. Neighbouring slivers are taken one after another. `place` is as joinedPlaces
/// gives it; triangles marked in `gone` are taken out too and count for nothing; corners of every other must
/// be at three places.
TurnedSlivers turnSlivers(const Mesh& mesh, std::vector<std::uint32_t> place, double tolerance,
                          std::vector<char> gone = {});

} // namespace zl::geometry
