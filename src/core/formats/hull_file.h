#pragma once
#include "core/model/block_build.h"

#include <string>
#include <string_view>
#include <vector>

namespace zl::formats {

/// A vehicle of blocks as Hullyard's XML has it (docs/formats/block-hull.md).
struct HullFile {
    std::string name;
    double edge = 1;                   ///< of a block, metres
    std::vector<blocks::Paint> paints; ///< blocks' colours are places in it
    blocks::Build build;

    bool operator==(const HullFile&) const = default;
};

/// Blocks that are alike and in a row are written as one. Colours are rounded to 1 in 255.
std::string writeHull(const HullFile& hull);
/// Throws Error, with `where` and the block that is wrong, for anything else than such a file: unknown
/// shapes, blocks out of bounds, two in one place, numbers that are none.
HullFile readHull(std::string_view bytes, const std::string& where);

} // namespace zl::formats
