#include "core/texture/colour_blocks.h"

#include <squish.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cstring>
#include <functional>

#define STB_DXT_IMPLEMENTATION
#define STB_DXT_STATIC
#include <stb_dxt.h>

namespace zl::texture {

namespace {

using Block = std::array<std::uint8_t, 64>; ///< 16 pixels
constexpr std::size_t colourBytes = 8, worstShare = 4;

/// The block at a place; what lies beyond the picture repeats its last pixels.
Block blockAt(const Pixels& pixels, int column, int row) {
    Block out;
    std::uint8_t* to = out.data();
    for (int y = 0; y < 4; ++y)
        for (int x = 0; x < 4; ++x, to += 4) {
            const int px = std::min(4 * column + x, pixels.width - 1),
                      py = std::min(4 * row + y, pixels.height - 1);
            std::memcpy(to, &pixels.rgba[4 * (std::size_t(py) * std::size_t(pixels.width) + std::size_t(px))],
                        4);
        }
    return out;
}

bool hasClear(const Block& block) {
    for (std::size_t p = 3; p < block.size(); p += 4)
        if (block[p] < 128) return true;
    return false;
}

class Blocks {
public:
    Blocks(const Pixels& pixels, bool alphaBlocks, std::uint8_t* out)
        : pixels_(pixels), alpha_(alphaBlocks), out_(out), across_((pixels.width + 3) / 4),
          errors_(std::size_t(across_) * std::size_t((pixels.height + 3) / 4)) {}

    void put() {
        overAll([&](std::size_t which, const Block& block) { fitQuickly(which, block); });
        const std::size_t kept = errors_.size() / worstShare;
        std::vector<int> sorted = errors_;
        std::ranges::nth_element(sorted, sorted.begin() + std::ptrdiff_t(kept), std::greater<>());
        const int border = std::max(1, sorted[kept]);
        overAll([&](std::size_t which, const Block& block) {
            if (errors_[which] >= border) fitWell(which, block);
        });
    }

private:
    std::size_t bytes() const { return alpha_ ? 2 * colourBytes : colourBytes; }
    int kind() const { return alpha_ ? squish::kDxt5 : squish::kDxt1; }
    std::uint8_t* at(std::size_t which) { return out_ + which * bytes(); }

    void overAll(const std::function<void(std::size_t, const Block&)>& each) {
        tbb::parallel_for(0, (pixels_.height + 3) / 4, [&](int row) {
            for (int column = 0; column < across_; ++column)
                each(std::size_t(row) * std::size_t(across_) + std::size_t(column),
                     blockAt(pixels_, column, row));
        });
    }

    void fitQuickly(std::size_t which, const Block& block) {
        std::uint8_t* to = at(which);
        if (alpha_) // its alpha; the colours that come with it are written over
            squish::Compress(block.data(), to, squish::kDxt5 | squish::kColourRangeFit);
        if (!alpha_ && hasClear(block)) {
            squish::Compress(block.data(), to, squish::kDxt1 | squish::kColourClusterFit);
            return; // nothing is left to do better
        }
        stb_compress_dxt_block(to + bytes() - colourBytes, block.data(), 0, STB_DXT_HIGHQUAL);
        errors_[which] = errorOf(to, block);
    }

    void fitWell(std::size_t which, const Block& block) {
        std::array<std::uint8_t, 2 * colourBytes> made{};
        squish::Compress(block.data(), made.data(), kind() | squish::kColourClusterFit);
        if (errorOf(made.data(), block) < errors_[which]) std::memcpy(at(which), made.data(), bytes());
    }

    /// Squares of what the colours are off by.
    int errorOf(const std::uint8_t* made, const Block& block) const {
        Block back;
        squish::Decompress(back.data(), made, kind());
        int sum = 0;
        for (std::size_t p = 0; p < block.size(); p += 4)
            for (std::size_t k = 0; k < 3; ++k) {
                const int by = int(block[p + k]) - int(back[p + k]);
                sum += by * by;
            }
        return sum;
    }

    const Pixels& pixels_;
    bool alpha_;
    std::uint8_t* out_;
    int across_;
    std::vector<int> errors_; ///< of each block
};

} // namespace

void putColourBlocks(std::string& out, const Pixels& pixels, bool alphaBlocks) {
    const std::size_t first = out.size(),
                      count = std::size_t((pixels.width + 3) / 4) * std::size_t((pixels.height + 3) / 4);
    if (count == 0) return;
    out.resize(first + count * (alphaBlocks ? 2 * colourBytes : colourBytes));
    Blocks(pixels, alphaBlocks, reinterpret_cast<std::uint8_t*>(out.data()) + first).put();
}

} // namespace zl::texture
