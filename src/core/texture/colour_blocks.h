#pragma once
#include "core/model/image.h"

#include <string>

namespace zl::texture {

/// Appends a picture's blocks of 4 by 4 pixels: BC1 (8 bytes each; a pixel whose alpha is below a half is
/// clear), or with `alphaBlocks` BC3 (16 bytes). Every block is fitted quickly, and the quarter that is off
/// most anew by squish's cluster fit, which takes a hundred times as long.
void putColourBlocks(std::string& out, const Pixels& pixels, bool alphaBlocks);

} // namespace zl::texture
