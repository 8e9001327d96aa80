#pragma once
#include <cstdint>
#include <string>
#include <vector>

namespace zl {

/// A picture as it came: the encoded bytes and what they say of themselves. Decoded only on demand,
/// so that an 8K picture costs nothing until somebody looks at it.
struct Image {
    std::string name;    ///< file name without folders, e.g. "bronze.png"
    std::string encoded; ///< PNG, JPEG, TGA or BMP bytes
    std::string mime;    ///< "image/png", "image/jpeg" …
    int width = 0;
    int height = 0;
    int channels = 0;
};

/// Decoded: 8-bit RGBA, rows from the top.
struct Pixels {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> rgba;
};

} // namespace zl
