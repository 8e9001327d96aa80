#pragma once
#include "core/model/image.h"

#include <cstddef>

namespace zl::texture {

/// Gives pixels that are wholly clear the colour of the nearest one that is not, counted in steps along rows
/// and columns; their alpha stays. Returns how many got another colour than they had.
std::size_t bleedColours(Pixels& pixels);

} // namespace zl::texture
