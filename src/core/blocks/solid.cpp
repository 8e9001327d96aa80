#include "core/blocks/solid.h"

#include "core/blocks/turns.h"

#include <algorithm>

namespace zl::blocks {

namespace {

constexpr double helps = 0.1; ///< of a block's volume, nearer than without a slope
/// A slope that is further off than that lies across a face that is no slope, and a wall of such is a saw.
constexpr double across = 0.15;

/// Summed over all of `inside`.
template <class Off>
double total(std::span<const Samples> inside, const Off& off) {
    double out = 0;
    for (const Samples one : inside) out += off(one);
    return out;
}

struct Choice {
    Block block;
    const Shape* shape;
    bool isOwnImage;
};

/// Everything but cubes.
const std::vector<Choice>& sloped() {
    static const auto all = [] {
        std::vector<Choice> made;
        for (const Kind kind : {Kind::Slope, Kind::Corner, Kind::InverseCorner})
            for (const Turn turn : turnsOf(kind))
                made.push_back({{kind, turn, 0},
                                &shapeOf(kind, turn),
                                mirrored(shapeOf(kind, turn), 0) == shapeOf(kind, turn)});
        return made;
    }();
    return all;
}

} // namespace

std::optional<Block> nearestBlock(std::span<const Samples> inside, Slopes slopes, bool ownImage) {
    const double none = total(inside, misfitOfNone),
                 cube = total(inside, [](Samples one) { return misfit(shapeOf(Kind::Cube, 0), one); });
    std::optional<Block> out;
    if (cube <= none) out = Block{};
    if (slopes == Slopes::None || none == 0 || cube == 0) return out;
    const auto several = double(inside.size());
    double least = std::min(cube, none);
    if (slopes == Slopes::WhereTheyHelp) least = std::min(least - helps * several, across * several);
    for (const Choice& choice : sloped()) {
        if (ownImage && !choice.isOwnImage) continue;
        const double off = total(inside, [&](Samples one) { return misfit(*choice.shape, one); });
        if (off < least) least = off, out = choice.block;
    }
    return out;
}

Build solidOf(const Filled& filled, Slopes slopes) {
    Build out(filled.size);
    for (std::size_t i = 0; i < filled.cells.size(); ++i)
        if (filled.cells[i] != 0)
            if (const auto block = nearestBlock({&filled.cells[i], 1}, slopes))
                out.put(cellIn(filled.size, i), *block);
    return out;
}

double volumeError(const Build& build, const Filled& filled) {
    double out = 0;
    for (std::size_t i = 0; i < filled.cells.size(); ++i)
        out += build.isThere(i) ? misfit(shapeOf(build.block(i).kind, build.block(i).turn), filled.cells[i])
                                : misfitOfNone(filled.cells[i]);
    return out;
}

double volumeOf(const Build& build) {
    double out = 0;
    for (std::size_t i = 0; i < build.cellCount(); ++i)
        if (build.isThere(i)) out += volumes[std::size_t(build.block(i).kind)];
    return out;
}

} // namespace zl::blocks
