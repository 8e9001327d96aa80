#pragma once
#include "core/model/image.h"

namespace zl::texture {

/// Half as many pixels along each side that has more than one, each the mean of those it stands for; the last
/// of an odd number of rows or columns joins its neighbours. `colours` averages red, green and blue in linear
/// light.
Pixels halved(const Pixels& pixels, bool colours);

} // namespace zl::texture
