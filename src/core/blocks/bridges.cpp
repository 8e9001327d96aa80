#include "core/blocks/bridges.h"

#include "core/blocks/faces.h"
#include "core/blocks/pieces.h"
#include "core/blocks/turns.h"

#include <algorithm>
#include <deque>
#include <map>

namespace zl::blocks {

namespace {

/// Puts blocks, and their images on the other side where that is wanted and nothing stands there.
class Putting {
public:
    Putting(Build& build, bool mirrored) : build_(build), mirrored_(mirrored) {}
    void put(glm::ivec3 cell, Block block) {
        if (const Block* there = build_.at(cell)) block.colour = there->colour;
        build_.put(cell, block);
        ++count_;
        const glm::ivec3 image = imageOf(build_.size(), cell);
        if (!mirrored_ || image == cell) return;
        const Block* there = build_.at(image);
        if (there && there->kind == Kind::Cube) return;
        Block behind = mirrored(block, 0);
        if (there) behind.colour = there->colour;
        build_.put(image, behind);
        ++count_;
    }
    std::size_t count() const { return count_; }

private:
    Build& build_;
    bool mirrored_;
    std::size_t count_ = 0;
};

/// The slope that covers two sides wholly; a cube where none does.
Block coveringBoth(int one, int other, Slopes slopes) {
    constexpr std::uint8_t whole = 0b1111;
    if (slopes != Slopes::None)
        for (const Turn turn : turnsOf(Kind::Slope)) {
            const Block slope{Kind::Slope, turn, 0};
            if (covers(slope, one) == whole && covers(slope, other) == whole) return slope;
        }
    return {};
}

int pieceAt(const Build& build, const Pieces& pieces, glm::ivec3 cell) {
    return build.holds(cell) ? pieces.of[indexIn(build.size(), cell)] : -1;
}

/// One round: every edge at which two pieces meet, and every slope that a cube would hold where it does not.
std::size_t bridgeOnce(Build& build, Slopes slopes, bool mirrored) {
    const Pieces pieces = piecesOf(build);
    if (pieces.blocks.size() < 2) return 0;
    Putting putting(build, mirrored);
    const Build before = build;
    for (std::size_t i = 0; i < before.cellCount(); ++i) {
        if (!before.isThere(i)) continue;
        const glm::ivec3 cell = cellIn(before.size(), i);
        for (int side = 0; side < 6; ++side) {
            // Beside one another, and a slope is in between.
            const glm::ivec3 beside = cell + sides[side];
            if (const int other = pieceAt(before, pieces, beside); other >= 0 && other != pieces.of[i]) {
                for (const glm::ivec3 filled : {cell, beside})
                    if (before.at(filled)->kind != Kind::Cube) putting.put(filled, {});
                continue;
            }
            // Edge to edge, each pair once.
            for (int turned = 0; turned < 6; ++turned) {
                if (turned / 2 <= side / 2) continue;
                const glm::ivec3 across = beside + sides[turned];
                const int other = pieceAt(before, pieces, across);
                if (other < 0 || other <= pieces.of[i]) continue;
                const glm::ivec3 around = cell + sides[turned];
                if (build.at(beside) || build.at(around)) continue; // bridged, or not by an edge alone
                const bool useBeside = beside.y < around.y || (beside.y == around.y && side / 2 != 0);
                const glm::ivec3 at = useBeside ? beside : around;
                // From there the one lies behind the way that led here, the other ahead.
                const int toOne = (useBeside ? side : turned) ^ 1, toOther = useBeside ? turned : side;
                Block block = coveringBoth(toOne, toOther, slopes);
                if (!(covers(block, toOne) & covers(before.block(i), toOne ^ 1)) ||
                    !(covers(block, toOther) & covers(*before.at(across), toOther ^ 1)))
                    continue; // neither would hold to what is there
                putting.put(at, block);
            }
        }
    }
    return putting.count();
}

} // namespace

std::size_t bridgeEdges(Build& build, Slopes slopes, bool mirrored) {
    constexpr int rounds = 4; // a bridge may leave another edge
    std::size_t out = 0;
    for (int k = 0; k < rounds; ++k) {
        const std::size_t added = bridgeOnce(build, slopes, mirrored);
        out += added;
        if (added == 0) break;
    }
    return out;
}

std::size_t bridgeAlong(Build& build, const Crossed& crossed, int most, bool mirrored) {
    Putting putting(build, mirrored);
    const glm::ivec3 size = build.size();
    for (bool again = true; again;) {
        again = false;
        const Pieces pieces = piecesOf(build);
        if (pieces.blocks.size() < 2) break;
        // From all pieces at once; where two of these fronts meet is the shortest way between them.
        std::vector<int> steps(build.cellCount(), -1);
        std::vector<std::size_t> from(build.cellCount(), 0);
        std::vector<int> whose = pieces.of;
        std::deque<std::size_t> open;
        for (std::size_t i = 0; i < build.cellCount(); ++i)
            if (build.isThere(i)) steps[i] = 0, from[i] = i, open.push_back(i);
        std::map<std::pair<int, int>, std::pair<std::size_t, std::size_t>> meetings;
        while (!open.empty()) {
            const std::size_t at = open.front();
            open.pop_front();
            const glm::ivec3 cell = cellIn(size, at);
            for (const glm::ivec3& way : sides) {
                const glm::ivec3 next = cell + way;
                if (!build.holds(next)) continue;
                const std::size_t there = indexIn(size, next);
                if (steps[there] < 0) {
                    if (!crossed.at(next) || 2 * steps[at] >= most) continue;
                    steps[there] = steps[at] + 1, from[there] = at, whose[there] = whose[at];
                    open.push_back(there);
                } else if (whose[there] != whose[at] && steps[at] + steps[there] > 0 &&
                           steps[at] + steps[there] <= most) {
                    meetings.try_emplace(std::minmax(whose[at], whose[there]), at, there);
                }
            }
        }
        for (const auto& [between, ends] : meetings)
            for (std::size_t at : {ends.first, ends.second}) {
                for (; steps[at] > 0; at = from[at]) putting.put(cellIn(size, at), {}), again = true;
                if (build.block(at).kind != Kind::Cube) putting.put(cellIn(size, at), {});
            }
    }
    return putting.count();
}

} // namespace zl::blocks
