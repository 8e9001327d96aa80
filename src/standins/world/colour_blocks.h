#pragma once
#include "standins/world/shape.h"

#include <string_view>

namespace zl::standins::world {

/// Blocks of 4 by 4 pixels, BC1 (`kind` 1) or BC3 (3), as a picture; `bytes` is large enough.
Picture unpacked(std::string_view bytes, int width, int height, int kind);
/// What such blocks take.
std::size_t blockBytes(int width, int height, int kind);

/// A DDS of such blocks. What a game wants of it is said in `problem`: sides of powers of two up to
/// `mostEdge`, every smaller level, and no byte missing.
struct DdsFile {
    Picture picture; ///< the finest level
    int levels = 0;
    std::string problem;
};
DdsFile readDdsFile(std::string_view bytes, int mostEdge);

} // namespace zl::standins::world
