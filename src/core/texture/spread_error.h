#pragma once
#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

namespace zl::texture {

/// Floyd and Steinberg's errors (1976), in sixteenths: what a channel of few steps cannot hold goes to the
/// neighbours to the right and below.
class SpreadError {
public:
    explicit SpreadError(int width) : now_(std::size_t(width + 2)), next_(std::size_t(width + 2)) {}

    /// The step, 0 to `steps`, that a byte becomes with what its neighbours left it. `channel` is below 3.
    int step(int x, std::size_t channel, int byte, int steps) {
        const int wanted = std::clamp(byte * 16 + now_[std::size_t(x) + 1][channel], 0, 255 * 16);
        const int step = (wanted * steps + 255 * 8) / (255 * 16);
        const int missing = wanted - (step * 255 * 16 + steps / 2) / steps;
        const std::size_t at = std::size_t(x) + 1;
        now_[at + 1][channel] += missing * 7 / 16, next_[at - 1][channel] += missing * 3 / 16;
        next_[at][channel] += missing * 5 / 16, next_[at + 1][channel] += missing / 16;
        return step;
    }
    void nextRow() {
        std::swap(now_, next_);
        std::ranges::fill(next_, std::array<int, 3>{});
    }

private:
    std::vector<std::array<int, 3>> now_, next_;
};

} // namespace zl::texture
