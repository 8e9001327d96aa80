#include "core/texture/channel_facts.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace zl::texture {

namespace {

struct Sums {
    std::array<std::uint8_t, 5> least{255, 255, 255, 255, 255}, most{};
    std::array<std::uint64_t, 5> sum{};
    bool grey = true;

    void add(const std::uint8_t* p) {
        const std::uint8_t values[] = {p[0], p[1], p[2], p[3], std::uint8_t((p[0] + p[1] + p[2] + 1) / 3)};
        for (std::size_t k = 0; k < 5; ++k) {
            least[k] = std::min(least[k], values[k]), most[k] = std::max(most[k], values[k]);
            sum[k] += values[k];
        }
        grey &= p[0] == p[1] && p[1] == p[2];
    }
    Sums with(const Sums& other) const {
        Sums out = *this;
        for (std::size_t k = 0; k < 5; ++k) {
            out.least[k] = std::min(least[k], other.least[k]), out.most[k] = std::max(most[k], other.most[k]);
            out.sum[k] += other.sum[k];
        }
        out.grey &= other.grey;
        return out;
    }
};

} // namespace

ChannelFacts channelFacts(const Pixels& pixels) {
    const std::size_t count = pixels.rgba.size() / 4;
    const Sums all = tbb::parallel_reduce(
        tbb::blocked_range<std::size_t>(0, count, 65536), Sums{},
        [&](const tbb::blocked_range<std::size_t>& range, Sums sums) {
            for (std::size_t p = range.begin(); p < range.end(); ++p) sums.add(&pixels.rgba[4 * p]);
            return sums;
        },
        [](const Sums& a, const Sums& b) { return a.with(b); });
    ChannelFacts out;
    for (std::size_t k = 0; k < 5; ++k)
        (k < 4 ? out.channels[k] : out.mean) = {all.least[k], all.most[k],
                                                count ? double(all.sum[k]) / double(count) : 0};
    out.grey = all.grey;
    return out;
}

} // namespace zl::texture
