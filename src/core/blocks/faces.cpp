#include "core/blocks/faces.h"

#include "core/blocks/turns.h"

#include <algorithm>

namespace zl::blocks {

namespace {

using Corners = std::vector<glm::ivec3>;

/// The faces of a kind untilted, as blocks/block.h defines it.
std::vector<Corners> outlines(Kind kind) {
    const Corners bottom{{0, 0, 0}, {1, 0, 0}, {1, 0, 1}, {0, 0, 1}};
    const Corners back{{0, 0, 0}, {0, 1, 0}, {1, 1, 0}, {1, 0, 0}};
    const Corners left{{0, 0, 0}, {0, 0, 1}, {0, 1, 1}, {0, 1, 0}};
    switch (kind) {
    case Kind::Cube:
        return {bottom,
                back,
                left,
                {{0, 1, 0}, {0, 1, 1}, {1, 1, 1}, {1, 1, 0}},
                {{0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}},
                {{1, 0, 0}, {1, 1, 0}, {1, 1, 1}, {1, 0, 1}}};
    case Kind::Slope:
        return {bottom,
                back,
                {{0, 0, 0}, {0, 0, 1}, {0, 1, 0}},
                {{1, 0, 0}, {1, 1, 0}, {1, 0, 1}},
                {{0, 0, 1}, {1, 0, 1}, {1, 1, 0}, {0, 1, 0}}};
    case Kind::Corner:
        return {bottom,
                {{0, 0, 0}, {0, 1, 0}, {1, 0, 0}},
                {{0, 0, 0}, {0, 0, 1}, {0, 1, 0}},
                {{0, 0, 1}, {1, 0, 1}, {0, 1, 0}},
                {{1, 0, 0}, {0, 1, 0}, {1, 0, 1}}};
    case Kind::InverseCorner:
        return {bottom,
                back,
                left,
                {{1, 0, 0}, {1, 1, 0}, {1, 0, 1}},
                {{0, 0, 1}, {1, 0, 1}, {0, 1, 1}},
                {{0, 1, 0}, {1, 0, 1}, {1, 1, 0}},
                {{0, 1, 0}, {0, 1, 1}, {1, 0, 1}}};
    }
    return {};
}

int sideOf(const Corners& corners) {
    for (int axis = 0; axis < 3; ++axis)
        for (const int at : {0, 1})
            if (std::ranges::all_of(corners, [&](glm::ivec3 c) { return c[axis] == at; }))
                return 2 * axis + at;
    return -1;
}

/// A quarter lies within a face where its middle does. In sixths, so that all is whole.
std::uint8_t quartersOf(const Corners& corners, int side) {
    if (side < 0) return 0;
    if (corners.size() == 4) return 0b1111;
    const int axis = side / 2, u = (axis + 1) % 3, v = (axis + 2) % 3;
    const glm::ivec2 middles[] = {{3, 1}, {5, 3}, {3, 5}, {1, 3}};
    std::uint8_t out = 0;
    for (int quarter = 0; quarter < 4; ++quarter) {
        int turns = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            const glm::ivec2 a{6 * corners[i][u], 6 * corners[i][v]},
                b{6 * corners[(i + 1) % 3][u], 6 * corners[(i + 1) % 3][v]}, p = middles[quarter];
            turns += (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x) > 0 ? 1 : -1;
        }
        if (std::abs(turns) == 3) out |= std::uint8_t(1 << quarter);
    }
    return out;
}

} // namespace

const std::vector<Face>& facesOf(Kind kind, Turn turn) {
    static const auto all = [] {
        std::array<std::array<std::vector<Face>, turnCount>, std::size(kindNames)> made;
        for (std::size_t kind = 0; kind < made.size(); ++kind)
            for (Turn turn = 0; turn < turnCount; ++turn)
                for (Corners corners : outlines(Kind(kind))) {
                    for (glm::ivec3& c : corners) c = (turned(turn, 2 * c - 1) + 1) / 2;
                    Face face;
                    face.count = int(corners.size());
                    std::ranges::copy(corners, face.corners.begin());
                    face.side = sideOf(corners);
                    face.quarters = quartersOf(corners, face.side);
                    made[kind][turn].push_back(face);
                }
        return made;
    }();
    return all[std::size_t(kind)][turn];
}

std::uint8_t covers(const Block& block, int side) {
    static const auto all = [] {
        std::array<std::array<std::array<std::uint8_t, 6>, turnCount>, std::size(kindNames)> made{};
        for (std::size_t kind = 0; kind < made.size(); ++kind)
            for (Turn turn = 0; turn < turnCount; ++turn)
                for (const Face& face : facesOf(Kind(kind), turn))
                    if (face.side >= 0) made[kind][turn][std::size_t(face.side)] = face.quarters;
        return made;
    }();
    return all[std::size_t(block.kind)][block.turn][std::size_t(side)];
}

bool isSeen(const Face& face, const Block* neighbour) {
    if (face.side < 0 || !neighbour) return true;
    return (face.quarters & ~covers(*neighbour, face.side ^ 1)) != 0;
}

} // namespace zl::blocks
