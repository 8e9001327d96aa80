#pragma once
#include "core/model/image.h"
#include "core/model/material.h"

#include <array>

namespace zl::texture {

/// What a picture's channels hold, as bytes.
struct ChannelFacts {
    struct Channel {
        std::uint8_t least = 255, most = 0;
        double mean = 0;

        bool isOneValue() const { return least >= most; }
    };
    std::array<Channel, 4> channels; ///< red, green, blue, alpha
    Channel mean;                    ///< of red, green and blue together
    bool grey = true;                ///< red, green and blue equal everywhere

    const Channel& of(PictureChannel channel) const {
        return channel == PictureChannel::Colour
                   ? mean
                   : channels[std::size_t(channel) - std::size_t(PictureChannel::Red)];
    }
};

ChannelFacts channelFacts(const Pixels& pixels);

} // namespace zl::texture
