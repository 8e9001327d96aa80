#pragma once
#include "core/model/image.h"

#include <string_view>

namespace zl::texture {

/// How a JPEG's own note (Exif 2.3, tag 0x0112) says that it is to be shown: 1 as it lies, 2–8 mirrored and
/// turned; 1 for bytes without one, or with one that says something else.
int jpegTurn(std::string_view bytes);

/// Pixels as such a note has them shown.
Pixels shownTurned(const Pixels& pixels, int turn);

} // namespace zl::texture
