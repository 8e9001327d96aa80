#include "core/blocks/turns.h"

#include "core/blocks/samples.h"

#include <algorithm>

namespace zl::blocks {

namespace {

using Matrix = std::array<glm::ivec3, 3>; // columns: where X, Y and Z go

glm::ivec3 times(const Matrix& m, glm::ivec3 v) {
    return m[0] * v.x + m[1] * v.y + m[2] * v.z;
}

Matrix times(const Matrix& a, const Matrix& b) {
    return {times(a, b[0]), times(a, b[1]), times(a, b[2])};
}

const std::array<Matrix, turnCount>& matrices() {
    static const std::array<Matrix, turnCount> all = [] {
        const glm::ivec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
        const Matrix quarter{-z, y, x}; // about Y, from Z to X
        // Up goes to +Y, −Y, +X, −X, +Z, −Z.
        const Matrix ups[] = {{x, y, z}, {x, -y, -z}, {-y, x, z}, {y, -x, z}, {x, z, -y}, {x, -z, y}};
        std::array<Matrix, turnCount> made{};
        for (int up = 0; up < 6; ++up) {
            Matrix spun{x, y, z};
            for (int k = 0; k < 4; ++k) {
                made[std::size_t(4 * up + k)] = times(ups[up], spun);
                spun = times(quarter, spun);
            }
        }
        return made;
    }();
    return all;
}

Turn turnOf(const Matrix& matrix) {
    return Turn(std::ranges::find(matrices(), matrix) - matrices().begin());
}

} // namespace

glm::ivec3 turned(Turn turn, glm::ivec3 direction) {
    return times(matrices()[turn], direction);
}

Turn then(Turn first, Turn second) {
    static const auto all = [] {
        std::array<std::array<Turn, turnCount>, turnCount> made{};
        for (std::size_t a = 0; a < turnCount; ++a)
            for (std::size_t b = 0; b < turnCount; ++b)
                made[a][b] = turnOf(times(matrices()[b], matrices()[a]));
        return made;
    }();
    return all[first][second];
}

Turn back(Turn turn) {
    for (Turn other = 0; other < turnCount; ++other)
        if (then(turn, other) == 0) return other;
    return 0;
}

Turn usual(Kind kind, Turn turn) {
    static const auto all = [] {
        std::array<std::array<Turn, turnCount>, std::size(kindNames)> made{};
        for (std::size_t kind = 0; kind < made.size(); ++kind)
            for (Turn turn = 0; turn < turnCount; ++turn) {
                Turn first = 0;
                while (shapeOf(Kind(kind), first) != shapeOf(Kind(kind), turn)) ++first;
                made[kind][turn] = first;
            }
        return made;
    }();
    return all[std::size_t(kind)][turn];
}

bool isAlike(const Block& a, const Block& b) {
    return a.kind == b.kind && a.colour == b.colour && usual(a.kind, a.turn) == usual(b.kind, b.turn);
}

const std::vector<Turn>& turnsOf(Kind kind) {
    static const auto all = [] {
        std::array<std::vector<Turn>, std::size(kindNames)> made;
        for (std::size_t kind = 0; kind < made.size(); ++kind)
            for (Turn turn = 0; turn < turnCount; ++turn)
                if (usual(Kind(kind), turn) == turn) made[kind].push_back(turn);
        return made;
    }();
    return all[std::size_t(kind)];
}

Block mirrored(Block block, int axis) {
    // A mirror image of a block is the same kind turned another way: each kind has a mirror plane of its own.
    const Shape wanted = mirrored(shapeOf(block.kind, block.turn), axis);
    for (const Turn turn : turnsOf(block.kind))
        if (shapeOf(block.kind, turn) == wanted) return {block.kind, turn, block.colour};
    return block;
}

} // namespace zl::blocks
