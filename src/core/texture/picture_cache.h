#pragma once
#include "core/texture/channel_facts.h"

#include <cstddef>
#include <memory>

namespace zl::texture {

/// A picture's pixels: decoded once for all that hold the picture, and again only when others took its place
/// in memory. May be called from several threads. Throws Error when the bytes are broken.
std::shared_ptr<const Pixels> pixelsOf(const std::shared_ptr<const Image>& image);

/// A picture's bytes: as it came, or encoded once where it was made here.
std::shared_ptr<const std::string> encodedOf(const std::shared_ptr<const Image>& image);

/// What its channels hold, worked out once. Throws Error when the bytes are broken.
std::shared_ptr<const ChannelFacts> channelFactsOf(const std::shared_ptr<const Image>& image);

/// What the cache holds and may hold, in bytes: a sixteenth of the machine's memory, at most 1 GB.
std::size_t pictureCacheBytes();
std::size_t mostPictureCacheBytes();

} // namespace zl::texture
