#include "core/blocks/samples.h"

#include "core/blocks/turns.h"

#include <algorithm>
#include <bit>

namespace zl::blocks {

namespace {

constexpr int allSamples = samplesAlong * samplesAlong * samplesAlong;

int bitOf(glm::ivec3 sample) {
    return sample.x + samplesAlong * (sample.y + samplesAlong * sample.z);
}

template <class Do>
void forEachSample(const Do& does) {
    for (int z = 0; z < samplesAlong; ++z)
        for (int y = 0; y < samplesAlong; ++y)
            for (int x = 0; x < samplesAlong; ++x) does(glm::ivec3(x, y, z));
}

/// Above 0 within, 0 on the slopes, as the kinds are defined. Samples stand at (n + ½) / 4.
int depthOf(Kind kind, glm::ivec3 sample) {
    const int ahead = samplesAlong - 1 - sample.y - sample.z, aside = samplesAlong - 1 - sample.y - sample.x;
    switch (kind) {
    case Kind::Cube:
        return 1;
    case Kind::Slope:
        return ahead;
    case Kind::Corner:
        return std::min(ahead, aside);
    case Kind::InverseCorner:
        return std::max(ahead, aside);
    }
    return 0;
}

glm::ivec3 turnedSample(Turn turn, glm::ivec3 sample) {
    // Odd numbers about the cube's middle.
    return (turned(turn, 2 * sample - (samplesAlong - 1)) + (samplesAlong - 1)) / 2;
}

} // namespace

const Shape& shapeOf(Kind kind, Turn turn) {
    static const auto all = [] {
        std::array<std::array<Shape, turnCount>, std::size(kindNames)> made{};
        for (std::size_t kind = 0; kind < made.size(); ++kind)
            for (Turn turn = 0; turn < turnCount; ++turn)
                forEachSample([&](glm::ivec3 sample) {
                    const int depth = depthOf(Kind(kind), sample);
                    const Samples bit = Samples(1) << bitOf(turnedSample(turn, sample));
                    if (depth > 0) made[kind][turn].inside |= bit;
                    if (depth == 0) made[kind][turn].surface |= bit;
                });
        return made;
    }();
    return all[std::size_t(kind)][turn];
}

Samples mirrored(Samples samples, int axis) {
    if (samples == 0 || samples == ~Samples(0)) return samples;
    // Each run of four samples along the axis the other way round: neighbours first, then pairs.
    const int step = axis == 0 ? 1 : axis == 1 ? samplesAlong : samplesAlong * samplesAlong;
    static constexpr Samples odd[] = {0xaaaaaaaaaaaaaaaa, 0xf0f0f0f0f0f0f0f0, 0xffff0000ffff0000},
                             upper[] = {0xcccccccccccccccc, 0xff00ff00ff00ff00, 0xffffffff00000000};
    samples = (samples & odd[axis]) >> step | (samples & ~odd[axis]) << step;
    return (samples & upper[axis]) >> 2 * step | (samples & ~upper[axis]) << 2 * step;
}

Shape mirrored(const Shape& shape, int axis) {
    return {mirrored(shape.inside, axis), mirrored(shape.surface, axis)};
}

double misfit(const Shape& shape, Samples inside) {
    const int counted = allSamples - std::popcount(shape.surface);
    return double(std::popcount((shape.inside ^ inside) & ~shape.surface)) / counted;
}

double misfitOfNone(Samples inside) {
    return double(std::popcount(inside)) / allSamples;
}

} // namespace zl::blocks
