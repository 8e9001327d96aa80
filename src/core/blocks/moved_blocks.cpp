#include "core/blocks/moved_blocks.h"

#include "core/blocks/faces.h"
#include "core/blocks/turns.h"

#include <algorithm>

namespace zl::blocks {

Chunk chunkWithin(const Hull& hull, glm::ivec3 one, glm::ivec3 other) {
    const glm::ivec3 low = glm::max(glm::min(one, other), hull.first),
                     high = glm::min(glm::max(one, other), hull.first + hull.build.size() - 1);
    Chunk out;
    for (int z = low.z; z <= high.z; ++z)
        for (int y = low.y; y <= high.y; ++y)
            for (int x = low.x; x <= high.x; ++x)
                if (const Block* block = hull.at({x, y, z})) out.emplace_back(glm::ivec3(x, y, z), *block);
    return out;
}

Chunk movedBy(Chunk chunk, glm::ivec3 way) {
    for (auto& [cell, block] : chunk) cell += way;
    return chunk;
}

Chunk flipped(Chunk chunk, int axis) {
    if (chunk.empty()) return chunk;
    int low = chunk[0].first[axis], high = low;
    for (const auto& [cell, block] : chunk)
        low = std::min(low, cell[axis]), high = std::max(high, cell[axis]);
    for (auto& [cell, block] : chunk) cell[axis] = low + high - cell[axis], block = mirrored(block, axis);
    return chunk;
}

Chunk imagesOf(const Chunk& chunk) {
    Chunk out;
    for (const auto& [cell, block] : chunk)
        if (cell.x != 0) out.emplace_back(glm::ivec3(-cell.x, cell.y, cell.z), mirrored(block, 0));
    return out;
}

Turn turnTowards(Kind kind, int side, const glm::dvec3& eye) {
    Turn best = 0;
    double most = -1e9;
    for (const Turn turn : turnsOf(kind)) {
        double score = 4.0 * double(covers({kind, turn, 0}, side ^ 1) == 0b1111);
        for (const Face& face : facesOf(kind, turn)) {
            if (face.side >= 0) continue;
            const glm::dvec3 normal =
                glm::normalize(glm::cross(glm::dvec3(face.corners[1] - face.corners[0]),
                                          glm::dvec3(face.corners[2] - face.corners[0])));
            score += glm::dot(normal, eye);
        }
        if (score > most + 1e-9) most = score, best = turn;
    }
    return best;
}

Turn nextTurn(Kind kind, Turn turn) {
    const auto& all = turnsOf(kind);
    const auto at = std::ranges::find(all, usual(kind, turn));
    return at == all.end() || at + 1 == all.end() ? all.front() : *(at + 1);
}

} // namespace zl::blocks
