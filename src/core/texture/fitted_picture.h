#pragma once
#include "core/base/progress.h"
#include "core/texture/small_formats.h"

namespace zl::texture {

/// One way to hold a picture in few bytes.
struct SmallChoice {
    SmallFormat format = SmallFormat::Colour16;
    int width = 0, height = 0;
    std::size_t bytes = 0;
    double error =
        0;         ///< root of the mean square of what channels are off by, of 255, at the picture's own size
    Pixels pixels; ///< as held
};

/// Every format at the largest size (sides powers of two, halved together, no smaller than 4) at which it
/// takes at most `most` bytes; the least error first. Empty when none does. Throws Cancelled.
std::vector<SmallChoice> smallChoices(const Pixels& pixels, std::size_t most, bool dithered,
                                      const Progress& progress);

/// One format at one size, its longer edge given.
SmallChoice smallChoice(const Pixels& pixels, SmallFormat format, int edge, bool dithered);

} // namespace zl::texture
