#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::blocks {

/// A surface in two: parts that enclose something, and sheets, which do not.
struct Sides {
    Mesh bodies, sheets;
    std::size_t sheetParts = 0;
};

/// `mesh` is in blocks. A loose part is a sheet where it is open so far that, half a block behind its faces,
/// most of them are not within it (winding number below ¾); small holes make none. Throws Cancelled.
Sides sidesOf(const Mesh& mesh, const Progress& progress = {});

} // namespace zl::blocks
