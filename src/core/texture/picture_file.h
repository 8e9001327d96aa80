#pragma once
#include "core/model/image.h"

#include <memory>

namespace zl::texture {

/// A picture file's bytes as a picture, not decoded yet; `name` is what it is called from now on. Throws
/// Error when it is of no kind that is known (picture_format.h), or claims more than 32768 pixels along an
/// edge or 268 million in all. A JPEG that says it is to be shown turned (Exif) is turned and written anew.
std::shared_ptr<const Image> pictureFromBytes(std::string name, std::string bytes);

/// A picture of pixels that were made here; without `alpha` the fourth channel is not written.
std::shared_ptr<const Image> pictureFromPixels(std::string name, Pixels pixels, bool alpha);

/// Decodes to 8-bit RGBA, each time anew; pixelsOf() does it once. Throws Error when the bytes are broken.
Pixels decode(const Image& image);

/// PNG bytes of 8-bit RGBA (or RGB, with `withAlpha` false) pixels.
std::string encodePng(const Pixels& pixels, bool withAlpha = true);

} // namespace zl::texture
