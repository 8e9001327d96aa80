#pragma once
#include "core/base/progress.h"
#include "core/blocks/samples.h"
#include "core/model/mesh.h"

namespace zl::blocks {

/// Where the one block of a part stands that is thinner than that.
enum class ThinSide { Nearest, Outward, Inward };

/// What of each cell lies within a surface. Cells in the order of Build.
struct Filled {
    glm::ivec3 size{0};
    std::vector<Samples> cells;
    /// Samples that lines could not tell, as the surface is open there; settled by the winding number.
    std::size_t unsure = 0;

    bool operator==(const Filled&) const = default;
};

/// What becomes of parts that are thinner than a block.
struct ThinParts {
    double below = 0; ///< blocks; what is thinner gets one block. 0 leaves it to its volume
    ThinSide side = ThinSide::Nearest;
};

/// `mesh` in blocks, cells from 0 to `size`. Lines along three axes go through every sample, each of which
/// knows in from out where the surface is closed on its way; most of those that know decide. Where two do not
/// agree, the generalised winding number does (above ½ is within). `sheets` are surfaces that enclose
/// nothing: they are thin, whatever `thin` says. Throws Cancelled.
Filled filled(const Mesh& mesh, glm::ivec3 size, const Mesh& sheets = {}, const ThinParts& thin = {},
              const Progress& progress = {});

} // namespace zl::blocks
