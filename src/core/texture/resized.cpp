#include "core/texture/resized.h"

#include "core/texture/pixel_values.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace zl::texture {

namespace {

/// Which pixels along an axis make each new one. Its weights add up to one.
struct Axis {
    struct Taps {
        int first, count;
        std::size_t weights; ///< where its weights begin
    };
    std::vector<Taps> taps;
    std::vector<float> weights;

    Axis(int from, int to) {
        taps.reserve(std::size_t(to));
        for (int i = 0; i < to; ++i) to < from ? cover(i, from, to) : mix(i, from, to);
    }

private:
    /// In whole numbers, a pixel being `to` long: sums of fractions would lose the first pixel here and
    /// there.
    void cover(std::int64_t i, std::int64_t from, std::int64_t to) {
        const std::int64_t begin = i * from, end = begin + from;
        taps.push_back({int(begin / to), 0, weights.size()});
        for (std::int64_t at = begin / to; at * to < end; ++at, ++taps.back().count)
            weights.push_back(
                float(double(std::min(end, (at + 1) * to) - std::max(begin, at * to)) / double(from)));
    }
    void mix(int i, int from, int to) {
        const double at = std::clamp((i + 0.5) * from / to - 0.5, 0.0, from - 1.0);
        const int first = std::min(int(at), std::max(0, from - 2));
        const auto part = float(at - first);
        taps.push_back({first, part > 0 ? 2 : 1, weights.size()});
        weights.push_back(1 - part);
        if (part > 0) weights.push_back(part);
    }
};

/// Bytes as shares.
const float* numberTable() {
    static const std::array<float, 256> table = [] {
        std::array<float, 256> out{};
        for (int i = 0; i < 256; ++i) out[std::size_t(i)] = float(i) / 255;
        return out;
    }();
    return table.data();
}

const float* lightTable() {
    static const std::array<float, 256> table = [] {
        std::array<float, 256> out{};
        for (int i = 0; i < 256; ++i) out[std::size_t(i)] = lightOf(std::uint8_t(i));
        return out;
    }();
    return table.data();
}

} // namespace

PixelKind pixelKindOf(PictureRole role) {
    return isColour(role)                ? PixelKind::Colours
           : role == PictureRole::Normal ? PixelKind::Normals
                                         : PixelKind::Numbers;
}

Pixels resized(const Pixels& pixels, int width, int height, PixelKind kind) {
    if (pixels.width == width && pixels.height == height) return pixels;
    Pixels out{width, height, {}};
    out.rgba.resize(std::size_t(4) * std::size_t(width) * std::size_t(height));
    const Axis across(pixels.width, width), down(pixels.height, height);
    const float* numbers = numberTable();
    const float* shown = kind == PixelKind::Colours ? lightTable() : numbers;
    const std::size_t row = std::size_t(4) * std::size_t(pixels.width);
    tbb::parallel_for(tbb::blocked_range<int>(0, height), [&](const tbb::blocked_range<int>& rows) {
        std::vector<float> line(row);
        for (int y = rows.begin(); y < rows.end(); ++y) {
            std::ranges::fill(line, 0.0f);
            const Axis::Taps& above = down.taps[std::size_t(y)];
            for (int k = 0; k < above.count; ++k) {
                const float weight = down.weights[above.weights + std::size_t(k)];
                const std::uint8_t* from = &pixels.rgba[row * std::size_t(above.first + k)];
                for (std::size_t x = 0; x < row; x += 4) {
                    line[x] += weight * shown[from[x]];
                    line[x + 1] += weight * shown[from[x + 1]];
                    line[x + 2] += weight * shown[from[x + 2]];
                    line[x + 3] += weight * numbers[from[x + 3]];
                }
            }
            std::uint8_t* target = &out.rgba[std::size_t(4) * std::size_t(width) * std::size_t(y)];
            for (int x = 0; x < width; ++x, target += 4) {
                const Axis::Taps& beside = across.taps[std::size_t(x)];
                glm::vec4 sum(0.0f);
                for (int k = 0; k < beside.count; ++k) {
                    const float* at = &line[std::size_t(4) * std::size_t(beside.first + k)];
                    sum += across.weights[beside.weights + std::size_t(k)] *
                           glm::vec4(at[0], at[1], at[2], at[3]);
                }
                putValue(target, sum, kind);
            }
        }
    });
    return out;
}

Pixels halved(const Pixels& pixels, PixelKind kind) {
    return resized(pixels, std::max(1, pixels.width / 2), std::max(1, pixels.height / 2), kind);
}

} // namespace zl::texture
