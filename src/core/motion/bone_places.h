#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// Where a bone begins.
struct BonePlace {
    int node = -1;
    int above = -1; ///< of the list: the nearest bone above it; -1 where none is
    glm::dvec3 place{0};
};

/// The bones of all skins with where they are by the nodes' `world` matrices, those above before those below.
std::vector<BonePlace> bonePlaces(const Model& model, const std::vector<glm::dmat4>& world);

} // namespace zl::motion
