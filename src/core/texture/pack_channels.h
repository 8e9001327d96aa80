#pragma once
#include "core/model/image.h"
#include "core/model/material.h"

#include <array>

namespace zl::texture {

/// What one channel of a packed picture holds: a channel of another picture, or one number everywhere.
struct PackedChannel {
    const Pixels* from = nullptr; ///< null for `otherwise`; must outlive the packing
    PictureChannel channel = PictureChannel::Colour;
    bool turnedOver = false; ///< 1 - value, as gloss is to roughness
    float otherwise = 1;     ///< 0-1
};

/// Red, green, blue and alpha put together. As large as the largest source; smaller ones are stretched, mixed
/// linearly. A 1 by 1 picture when there is no source.
Pixels packedChannels(const std::array<PackedChannel, 4>& channels);

} // namespace zl::texture
