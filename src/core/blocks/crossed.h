#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::blocks {

/// What the surface of a model leaves in the cells that it goes through, in the order of Build.
struct Crossed {
    glm::ivec3 size{0};
    std::vector<char> crossed;
    std::vector<glm::vec4> colours; ///< linear light by area, summed, and the area

    bool at(glm::ivec3 cell) const;
};

/// What is shown, with pictures and colours of corners; `toBlocks` from world metres to cells. A place counts
/// for the cell a quarter of a block behind it, which is the one that shows it. Throws Cancelled.
Crossed crossedCells(const Model& model, const glm::dmat4& toBlocks, glm::ivec3 size,
                     const Progress& progress = {});

} // namespace zl::blocks
