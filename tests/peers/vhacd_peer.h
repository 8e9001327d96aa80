#pragma once
#include "core/model/mesh.h"

#include <vector>

namespace peers {

struct VhacdGoal {
    std::uint32_t pieces = 10;  ///< at most
    std::uint32_t corners = 64; ///< of a piece, at most
};

/// Corners of convex pieces that cover a mesh, by V-HACD (Mamou, Lengyel, Peters 2016) as it is out of the
/// box.
std::vector<std::vector<glm::vec3>> vhacdPieces(const zl::Mesh& mesh, const VhacdGoal& goal);

/// A bare voxel grid of about so many cells: those that the surface goes through, and those that it encloses
/// by flood filling. Says how many cells there are, and how many of them are filled.
struct VhacdVoxels {
    std::size_t cells = 0, filled = 0;
};
VhacdVoxels vhacdVoxels(const zl::Mesh& mesh, std::size_t cells);

} // namespace peers
