#pragma once
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace zl {

/// Decoded: 8-bit RGBA, rows from the top.
struct Pixels {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> rgba;
};

/// A picture: the bytes that it came in, decoded only on demand (texture/picture_cache.h), so that an 8K
/// picture costs nothing until somebody looks at it; or pixels that were made here and are encoded when a
/// file is written.
struct Image {
    std::string name;    ///< file name without folders, e.g. "bronze.png"
    std::string encoded; ///< empty where there are pixels
    std::string format;  ///< id of its kind (texture/picture_format.h); "png" for pixels
    int width = 0;
    int height = 0;
    int channels = 0;
    std::shared_ptr<const Pixels> pixels{};

    /// Whether its file has an alpha channel.
    bool hasAlpha() const { return channels == 2 || channels == 4; }
};

} // namespace zl
