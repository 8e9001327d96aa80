#pragma once
#include "core/model/image.h"
#include "core/model/material.h"

namespace zl::texture {

/// A position along an edge of `size` pixels brought onto it, as `beyond` says.
int broughtInside(int at, int size, Beyond beyond);

/// The pixel at a UV (origin top left), 0-1 a channel, colours as they are kept; between pixels mixed
/// linearly unless the sampler says otherwise. Mixing colours needs light: `linear` takes red, green and blue
/// out of sRGB's curve first, and the result is linear then. A UV that is no number is taken as 0.
glm::vec4 sampled(const Pixels& pixels, glm::vec2 uv, const Sampler& sampler, bool linear);

/// The one number that `channel` means in a pixel.
float channelOf(const glm::vec4& pixel, PictureChannel channel);

} // namespace zl::texture
