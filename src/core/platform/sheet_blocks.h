#pragma once
#include "core/model/block_build.h"

#include <filesystem>

namespace zl::platform {

class TableReader;

/// What a platform's builds are made of, where it takes such.
struct SheetBlocks {
    double edge = 0;                   ///< of a block, metres; 0 where it takes none
    double kilograms = 0;              ///< of a whole cube; 0 where weight does not count
    std::vector<blocks::Paint> paints; ///< that blocks may have
};

/// Reads `[blocks]` and `[[paint]]`. Throws Error with file and line.
SheetBlocks readBlocks(TableReader& root, const std::filesystem::path& file);

} // namespace zl::platform
