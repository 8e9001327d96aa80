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

} // namespace peers
