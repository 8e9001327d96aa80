#pragma once
#include "core/model/mesh.h"

#include <optional>

namespace zl::motion {

/// What takes a corner of a skinned mesh to where its joints have it: their matrices by its weights, which
/// need not be 1 together. Nothing for a corner that hangs on none.
inline std::optional<glm::dmat4> cornerMatrix(const Mesh& mesh, std::size_t corner,
                                              const std::vector<glm::dmat4>& joints) {
    glm::dmat4 matrix(0.0);
    double sum = 0;
    for (int k = 0; k < 4; ++k) {
        const double w = mesh.weights[corner][k];
        if (w == 0 || mesh.joints[corner][k] >= joints.size()) continue;
        matrix += w * joints[mesh.joints[corner][k]];
        sum += w;
    }
    if (!(sum > 0)) return std::nullopt;
    return matrix / sum;
}

} // namespace zl::motion
