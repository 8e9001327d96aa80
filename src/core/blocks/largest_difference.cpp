#include "core/blocks/largest_difference.h"

#include <tbb/parallel_for.h>

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
    for (std::size_t k = 0; k < marked.size(); ++k) out[k] = marked[k] ? 0 : nowhere;
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

bool isSeen(const Build& build, glm::ivec3 cell) {
    for (int axis = 0; axis < 3; ++axis)
        for (const int way : {-1, 1}) {
            glm::ivec3 beside = cell;
            beside[axis] += way;
            if (!build.at(beside)) return true;
        }
    return false;
}

} // namespace

Difference largestDifference(const Build& build, const std::vector<char>& crossed) {
    const glm::ivec3 size = build.size();
    std::vector<char> blocks(crossed.size());
    for (std::size_t k = 0; k < blocks.size(); ++k) blocks[k] = build.at(cellIn(size, k)) != nullptr;
    const std::vector<float> toBlocks = squaresTo(size, blocks), toSurface = squaresTo(size, crossed);
    Difference out;
    float most = 0;
    for (std::size_t k = 0; k < blocks.size(); ++k) {
        const bool leftOut = crossed[k] && !blocks[k];
        if (!leftOut && (!blocks[k] || crossed[k])) continue;
        const float square = leftOut ? toBlocks[k] : toSurface[k];
        if (square <= most || square >= nowhere) continue;
        const glm::ivec3 cell = cellIn(size, k);
        if (!leftOut && !isSeen(build, cell)) continue;
        most = square, out = {std::sqrt(double(square)), cell, leftOut};
    }
    return out;
}

} // namespace zl::blocks
