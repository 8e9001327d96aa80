#pragma once
#include "core/texture/resized.h"

#include <array>

namespace zl::texture {

/// What one channel of a packed picture holds: a channel of another picture, or one number everywhere.
struct PackedChannel {
    const Pixels* from = nullptr; ///< null for `otherwise`; must outlive the packing
    PictureChannel channel = PictureChannel::Colour;
    bool turnedOver = false;             ///< 1 - value, as gloss is to roughness
    float otherwise = 1;                 ///< 0-1
    PixelKind kind = PixelKind::Numbers; ///< of the picture it comes from: how that is stretched
    float factor = 1; ///< what its values are multiplied by, before they are turned over; colours as light
};

/// Red, green, blue and alpha put together. As large as `size`, or where that is 0 as the largest source;
/// others are resized. A 1 by 1 picture when there is neither.
Pixels packedChannels(const std::array<PackedChannel, 4>& channels, glm::ivec2 size = glm::ivec2(0));

} // namespace zl::texture
