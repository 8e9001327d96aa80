#include "core/blocks/largest_difference.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>

#include <algorithm>
#include <cmath>
#include <limits>

namespace zl::blocks {

namespace {

constexpr float nowhere = 1e12f; ///< squared, of what has nothing to be near to

/// The lower envelope of parabolas that stand on a line of values, in its place.
class Envelope {
public:
    explicit Envelope(int most)
        : values_(std::size_t(most)), feet_(std::size_t(most)), from_(std::size_t(most) + 1) {}

    void along(float* line, std::size_t stride, int count) {
        for (int i = 0; i < count; ++i) values_[std::size_t(i)] = line[stride * std::size_t(i)];
        int last = -1;
        for (int i = 0; i < count; ++i) {
            if (values_[std::size_t(i)] >= nowhere) continue;
            float meets = -std::numeric_limits<float>::infinity();
            while (last >= 0 && (meets = meeting(feet_[std::size_t(last)], i)) <= from_[std::size_t(last)])
                --last;
            if (last < 0) meets = -std::numeric_limits<float>::infinity();
            ++last;
            feet_[std::size_t(last)] = i, from_[std::size_t(last)] = meets;
        }
        if (last < 0) return;
        for (int i = 0, k = 0; i < count; ++i) {
            while (k < last && from_[std::size_t(k) + 1] < float(i)) ++k;
            const int foot = feet_[std::size_t(k)];
            line[stride * std::size_t(i)] = values_[std::size_t(foot)] + float((i - foot) * (i - foot));
        }
    }

private:
    float meeting(int a, int b) const {
        const float at = values_[std::size_t(a)] + float(a) * float(a),
                    bt = values_[std::size_t(b)] + float(b) * float(b);
        return (bt - at) / float(2 * (b - a));
    }
    std::vector<float> values_;
    std::vector<int> feet_;
    std::vector<float> from_;
};

/// Of each cell the square of how far the nearest of those is that are marked.
std::vector<float> squaresTo(glm::ivec3 size, const std::vector<char>& marked) {
    std::vector<float> out(marked.size());
    std::ranges::transform(marked, out.begin(), [](char mark) { return mark ? 0 : nowhere; });
    const std::size_t strides[] = {1, std::size_t(size.x), std::size_t(size.x) * std::size_t(size.y)};
    for (int axis = 0; axis < 3; ++axis) {
        const int second = axis == 0 ? 1 : 0, third = axis == 2 ? 1 : 2;
        tbb::parallel_for(0, size[third], [&](int t) {
            Envelope envelope(size[axis]);
            for (int s = 0; s < size[second]; ++s)
                envelope.along(&out[strides[second] * std::size_t(s) + strides[third] * std::size_t(t)],
                               strides[axis], size[axis]);
        });
    }
    return out;
}

/// Whether one sees it: cells at the box's sides are.
bool isSeen(const std::vector<char>& blocks, glm::ivec3 size, glm::ivec3 cell) {
    for (int axis = 0; axis < 3; ++axis)
        for (const int way : {-1, 1}) {
            glm::ivec3 beside = cell;
            beside[axis] += way;
            if (!isIn(size, beside) || !blocks[indexIn(size, beside)]) return true;
        }
    return false;
}

/// The square of how far the nearest marked one of the 27 cells around is; `nowhere` for none.
float squareAround(glm::ivec3 size, glm::ivec3 cell, const std::vector<char>& marked) {
    const glm::ivec3 low = glm::max(cell - 1, 0), high = glm::min(cell + 1, size - 1);
    float out = nowhere;
    for (int z = low.z; z <= high.z; ++z)
        for (int y = low.y; y <= high.y; ++y)
            for (int x = low.x; x <= high.x; ++x)
                if (const glm::ivec3 by = glm::ivec3(x, y, z) - cell; marked[indexIn(size, {x, y, z})])
                    out = std::min(out, float(by.x * by.x + by.y * by.y + by.z * by.z));
    return out;
}

struct Furthest {
    float square = 0;
    std::size_t cell = 0;
    bool isBeyond = false; ///< some are further than the cells around tell

    Furthest with(const Furthest& other) const {
        Furthest out = other.square > square ? other : *this;
        out.isBeyond = isBeyond || other.isBeyond;
        return out;
    }
};

/// Of those cells that `counts`, the one furthest from what is marked. Mostly all are beside it, which the
/// cells around tell at once.
template <class Counts>
Furthest furthest(glm::ivec3 size, const std::vector<char>& marked, const Counts& counts) {
    const auto over = [&](const auto& square) {
        return tbb::parallel_reduce(
            tbb::blocked_range<std::size_t>(0, marked.size(), 16384), Furthest{},
            [&](const tbb::blocked_range<std::size_t>& range, Furthest out) {
                for (std::size_t k = range.begin(); k < range.end(); ++k) {
                    if (marked[k] || !counts(k)) continue;
                    const float now = square(k);
                    if (now >= nowhere)
                        out.isBeyond = true;
                    else if (now > out.square)
                        out.square = now, out.cell = k;
                }
                return out;
            },
            [](const Furthest& a, const Furthest& b) { return a.with(b); });
    };
    const Furthest near = over([&](std::size_t k) { return squareAround(size, cellIn(size, k), marked); });
    if (!near.isBeyond) return near;
    const std::vector<float> squares = squaresTo(size, marked);
    return over([&](std::size_t k) { return squares[k]; });
}

} // namespace

Difference largestDifference(const Build& build, const std::vector<char>& crossed) {
    if (crossed.empty()) return {};
    const glm::ivec3 size = build.size();
    std::vector<char> blocks(crossed.size());
    for (std::size_t k = 0; k < blocks.size(); ++k) blocks[k] = build.at(cellIn(size, k)) != nullptr;
    const Furthest left = furthest(size, blocks, [&](std::size_t k) { return crossed[k] != 0; });
    const Furthest added = furthest(
        size, crossed, [&](std::size_t k) { return blocks[k] && isSeen(blocks, size, cellIn(size, k)); });
    const bool isLeftOut = left.square >= added.square && left.square > 0;
    const Furthest& most = isLeftOut ? left : added;
    return {std::sqrt(double(most.square)), cellIn(size, most.cell), isLeftOut};
}

} // namespace zl::blocks
