// Blocks of 4 by 4 pixels, as graphics cards unpack them: two colours of 5-6-5 and what lies between them.
#include "standins/world/colour_blocks.h"

#include <algorithm>
#include <array>

namespace zl::standins::world {

namespace {

unsigned byteAt(std::string_view bytes, std::size_t at) {
    return static_cast<unsigned char>(bytes[at]);
}

std::array<int, 3> colourOf(unsigned word) {
    const unsigned r = word >> 11 & 31u, g = word >> 5 & 63u, b = word & 31u;
    return {int(r << 3 | r >> 2), int(g << 2 | g >> 4), int(b << 3 | b >> 2)};
}

/// The sixteen colours of a block at `at`, RGBA; `clear` where its fourth colour may be none.
void colours(std::string_view bytes, std::size_t at, bool clear, std::array<std::array<int, 4>, 16>& out) {
    const unsigned first = byteAt(bytes, at) | byteAt(bytes, at + 1) << 8,
                   second = byteAt(bytes, at + 2) | byteAt(bytes, at + 3) << 8;
    const auto a = colourOf(first), b = colourOf(second);
    std::array<std::array<int, 4>, 4> four{};
    const bool three = clear && first <= second;
    for (std::size_t k = 0; k < 3; ++k) {
        four[0][k] = a[k], four[1][k] = b[k];
        four[2][k] = three ? (a[k] + b[k]) / 2 : (2 * a[k] + b[k]) / 3;
        four[3][k] = three ? 0 : (a[k] + 2 * b[k]) / 3;
    }
    for (std::size_t k = 0; k < 4; ++k) four[k][3] = three && k == 3 ? 0 : 255;
    for (std::size_t p = 0; p < 16; ++p) out[p] = four[byteAt(bytes, at + 4 + p / 4) >> (2 * (p % 4)) & 3u];
}

void alphas(std::string_view bytes, std::size_t at, std::array<std::array<int, 4>, 16>& out) {
    const int a = int(byteAt(bytes, at)), b = int(byteAt(bytes, at + 1));
    std::array<int, 8> eight{a, b};
    for (int k = 1; k < 7; ++k)
        eight[std::size_t(k) + 1] = a > b    ? ((7 - k) * a + k * b) / 7
                                    : k < 5  ? ((5 - k) * a + k * b) / 5
                                    : k == 5 ? 0
                                             : 255;
    std::uint64_t bits = 0;
    for (std::size_t k = 0; k < 6; ++k) bits |= std::uint64_t(byteAt(bytes, at + 2 + k)) << (8 * k);
    for (std::size_t p = 0; p < 16; ++p) out[p][3] = eight[bits >> (3 * p) & 7u];
}

} // namespace

std::size_t blockBytes(int width, int height, int kind) {
    return std::size_t((width + 3) / 4) * std::size_t((height + 3) / 4) * (kind == 3 ? 16 : 8);
}

Picture unpacked(std::string_view bytes, int width, int height, int kind) {
    Picture out{width, height,
                std::vector<unsigned char>(std::size_t(4) * std::size_t(width) * std::size_t(height))};
    std::size_t at = 0;
    std::array<std::array<int, 4>, 16> block{};
    for (int y = 0; y < height; y += 4)
        for (int x = 0; x < width; x += 4) {
            if (kind == 3) {
                colours(bytes, at + 8, false, block);
                alphas(bytes, at, block);
            } else {
                colours(bytes, at, true, block);
            }
            at += kind == 3 ? 16 : 8;
            for (int p = 0; p < 16; ++p) {
                const int px = x + p % 4, py = y + p / 4;
                if (px >= width || py >= height) continue;
                for (std::size_t k = 0; k < 4; ++k)
                    out.rgba[4 * (std::size_t(py) * std::size_t(width) + std::size_t(px)) + k] =
                        static_cast<unsigned char>(block[std::size_t(p)][k]);
            }
        }
    return out;
}

DdsFile readDdsFile(std::string_view bytes, int mostEdge) {
    DdsFile out;
    const auto number = [&](std::size_t at) {
        return byteAt(bytes, at) | byteAt(bytes, at + 1) << 8 | byteAt(bytes, at + 2) << 16 |
               byteAt(bytes, at + 3) << 24;
    };
    if (bytes.size() < 128 || bytes.substr(0, 4) != "DDS " || number(4) != 124) {
        out.problem = "is no DDS";
        return out;
    }
    const std::string_view code = bytes.substr(84, 4);
    const int kind = code == "DXT1" ? 1 : code == "DXT5" ? 3 : 0;
    const auto height = number(12), width = number(16), levels = number(28);
    const auto isPower = [](unsigned side) { return side > 0 && (side & (side - 1)) == 0; };
    if (kind == 0)
        out.problem = "is in blocks of another kind; takes DXT1 and DXT5";
    else if (!isPower(width) || !isPower(height))
        out.problem =
            std::to_string(width) + " × " + std::to_string(height) + " px; sides must be powers of two";
    else if (std::max(width, height) > unsigned(mostEdge))
        out.problem =
            std::to_string(std::max(width, height)) + " px; takes up to " + std::to_string(mostEdge);
    if (!out.problem.empty()) return out;
    std::size_t needed = 128;
    unsigned all = 0;
    for (unsigned w = width, h = height;; w = std::max(1u, w / 2), h = std::max(1u, h / 2)) {
        needed += blockBytes(int(w), int(h), kind);
        ++all;
        if (w == 1 && h == 1) break;
    }
    out.levels = int(levels);
    if (levels != all)
        out.problem = "has " + std::to_string(levels) + " of " + std::to_string(all) + " levels";
    else if (bytes.size() < needed)
        out.problem = "is cut off";
    else
        out.picture = unpacked(bytes.substr(128), int(width), int(height), kind);
    return out;
}

} // namespace zl::standins::world
