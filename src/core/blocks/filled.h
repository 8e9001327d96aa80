#pragma once
#include "core/base/progress.h"
#include "core/blocks/samples.h"
#include "core/model/mesh.h"

namespace zl::blocks {

/// What of each cell lies within a surface. Cells in the order of Build.
struct Filled {
    glm::ivec3 size{0};
    std::vector<Samples> cells;
    /// Samples that lines could not tell, as the surface is open there; settled by the winding number.
    std::size_t unsure = 0;

    bool operator==(const Filled&) const = default;
};

/// `mesh` in blocks, cells from 0 to `size`. Lines along three axes go through every sample, each of which
/// knows in from out where the surface is closed on its way; most of those that know decide. Where two do not
/// agree, the generalised winding number does (above ½ is within). Throws Cancelled.
Filled filled(const Mesh& mesh, glm::ivec3 size, const Progress& progress = {});

} // namespace zl::blocks
