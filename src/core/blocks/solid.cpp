#include "core/blocks/solid.h"

#include "core/blocks/faces.h"
#include "core/blocks/turns.h"

#include <algorithm>

namespace zl::blocks {

namespace {

constexpr double helps = 0.1; ///< of a block's volume, nearer than without a slope
constexpr double alike =
    0.06; ///< a slope that is as near as that is the surface itself, whatever is beside it
constexpr double across = 0.25; ///< a slope that is further off than that lies along another surface

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
    std::uint8_t whole = 0, half = 0, open = 0; ///< sides that it covers so

    bool carriesOn(const Beside& beside) const {
        return (whole & ~beside.full) == 0 && (open & beside.full) == 0 &&
               (half == 0 || (half & beside.empty) == 0);
    }
};

Choice choiceOf(Kind kind, Turn turn) {
    const Shape& shape = shapeOf(kind, turn);
    Choice out{{kind, turn, 0}, &shape, mirrored(shape, 0) == shape};
    for (int side = 0; side < 6; ++side) {
        const std::uint8_t covered = covers(out.block, side), bit = std::uint8_t(1 << side);
        (covered == 0b1111 ? out.whole : covered != 0 ? out.half : out.open) |= bit;
    }
    if (kind == Kind::Slope) out.half = 0; // its ends may be free
    return out;
}

/// Everything but cubes.
const std::vector<Choice>& sloped() {
    static const auto all = [] {
        std::vector<Choice> made;
        for (const Kind kind : {Kind::Slope, Kind::Corner, Kind::InverseCorner})
            for (const Turn turn : turnsOf(kind)) made.push_back(choiceOf(kind, turn));
        return made;
    }();
    return all;
}

} // namespace

Beside Beside::mirrored() const {
    const auto swapped = [](std::uint8_t bits) {
        return std::uint8_t((bits & ~3) | (bits & 1) << 1 | (bits & 2) >> 1);
    };
    return {swapped(full), swapped(empty)};
}

Beside besideOf(const Filled& filled, glm::ivec3 cell) {
    Beside out;
    for (int side = 0; side < 6; ++side) {
        const glm::ivec3 next = cell + sides[side];
        const Samples samples = isIn(filled.size, next) ? filled.cells[indexIn(filled.size, next)] : 0;
        if (2 * misfitOfNone(samples) >= 1) out.full |= std::uint8_t(1 << side);
        if (4 * misfitOfNone(samples) < 1) out.empty |= std::uint8_t(1 << side);
    }
    return out;
}

std::optional<Block> nearestBlock(std::span<const Samples> inside, Slopes slopes, const Beside& beside,
                                  bool ownImage) {
    const double none = total(inside, misfitOfNone),
                 cube = total(inside, [](Samples one) { return misfit(shapeOf(Kind::Cube, 0), one); });
    std::optional<Block> out;
    if (cube <= none) out = Block{};
    if (slopes == Slopes::None || none == 0 || cube == 0) return out;
    const auto several = double(inside.size());
    double least = std::min(cube, none);
    const bool helping = slopes == Slopes::WhereTheyHelp;
    const double clearly = least - helps * several;
    for (const Choice& choice : sloped()) {
        if (ownImage && !choice.isOwnImage) continue;
        const double off = total(inside, [&](Samples one) { return misfit(*choice.shape, one); });
        if (off >= least) continue;
        const double most = choice.carriesOn(beside) ? across : alike;
        if (helping && (off > clearly || off > most * several)) continue;
        least = off, out = choice.block;
    }
    return out;
}

void settle(const Build& build, const NearTo& nearTo,
            const std::function<void(glm::ivec3, std::optional<Block>)>& put) {
    struct Change {
        glm::ivec3 cell;
        std::optional<Block> block;
    };
    std::vector<Change> changes; // all at once, so that none rests on another
    for (std::size_t i = 0; i < build.cellCount(); ++i) {
        if (!build.isThere(i) || build.block(i).kind == Kind::Cube) continue;
        const Block& block = build.block(i);
        const glm::ivec3 cell = cellIn(build.size(), i);
        bool leans = true;
        for (int side = 0; side < 6; ++side) {
            const std::uint8_t covered = covers(block, side);
            if (covered == 0 || (covered != 0b1111 && block.kind == Kind::Slope)) continue;
            const Block* next = build.at(cell + sides[side]);
            leans &= next && (covered & ~covers(*next, side ^ 1)) == 0;
        }
        if (leans) continue;
        const std::vector<Samples> near = nearTo(cell);
        if (near.empty()) continue;
        const auto several = double(near.size());
        const Shape& shape = shapeOf(block.kind, block.turn);
        if (total(near, [&](Samples one) { return misfit(shape, one); }) <= alike * several) continue;
        const double none = total(near, misfitOfNone);
        changes.push_back({cell, 2 * none >= several ? std::optional(Block{}) : std::nullopt});
    }
    for (const Change& change : changes) put(change.cell, change.block);
}

Build solidOf(const Filled& filled, Slopes slopes) {
    Build out(filled.size);
    for (std::size_t i = 0; i < filled.cells.size(); ++i) {
        const Samples cell = filled.cells[i];
        if (cell == 0) continue;
        const bool plain = slopes == Slopes::None || cell == ~Samples(0); // what is beside it changes nothing
        if (const auto block =
                nearestBlock({&cell, 1}, slopes, plain ? Beside() : besideOf(filled, cellIn(filled.size, i))))
            out.put(cellIn(filled.size, i), *block);
    }
    if (slopes != Slopes::WhereTheyHelp) return out;
    for (int round = 0; round < settlings; ++round)
        settle(
            out, [&](glm::ivec3 cell) { return std::vector{filled.cells[indexIn(filled.size, cell)]}; },
            [&](glm::ivec3 cell, std::optional<Block> block) {
                block ? out.put(cell, *block) : out.take(cell);
            });
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
