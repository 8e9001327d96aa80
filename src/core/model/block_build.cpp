#include "core/model/block_build.h"

#include "core/base/error.h"
#include "core/model/model.h"

#include <algorithm>

namespace zl::blocks {

namespace {

constexpr std::int64_t mostCells = 64'000'000; ///< 400³; what platforms take is far below

} // namespace

std::size_t indexIn(glm::ivec3 size, glm::ivec3 cell) {
    return std::size_t(cell.x) +
           std::size_t(size.x) * (std::size_t(cell.y) + std::size_t(size.y) * std::size_t(cell.z));
}

glm::ivec3 cellIn(glm::ivec3 size, std::size_t index) {
    const auto x = std::size_t(size.x), y = std::size_t(size.y);
    return {int(index % x), int(index / x % y), int(index / (x * y))};
}

std::size_t cellsIn(glm::ivec3 size) {
    const auto slice = std::int64_t(size.x) * size.y;
    if (size.x < 0 || size.y < 0 || size.z < 0 || slice > mostCells || slice * size.z > mostCells)
        throw Error("that is more blocks than can be worked with", {}, "Make it smaller, or blocks larger.");
    return std::size_t(slice * size.z);
}

Build::Build(glm::ivec3 size) : size_(size), there_(cellsIn(size), 0), blocks_(there_.size()) {}

bool Build::holds(glm::ivec3 cell) const {
    return cell.x >= 0 && cell.y >= 0 && cell.z >= 0 && cell.x < size_.x && cell.y < size_.y &&
           cell.z < size_.z;
}

const Block* Build::at(glm::ivec3 cell) const {
    return holds(cell) && isThere(indexIn(size_, cell)) ? &blocks_[indexIn(size_, cell)] : nullptr;
}

void Build::put(glm::ivec3 cell, Block block) {
    if (!holds(cell)) return;
    there_[indexIn(size_, cell)] = 1;
    blocks_[indexIn(size_, cell)] = block;
}

void Build::take(glm::ivec3 cell) {
    if (!holds(cell)) return;
    there_[indexIn(size_, cell)] = 0;
    blocks_[indexIn(size_, cell)] = {};
}

std::size_t Build::count() const {
    return std::size_t(std::ranges::count(there_, 1));
}

const Hull* hullOf(const Model& model) {
    const auto shown = shownNodes(model);
    if (!model.blocks || shown.size() != 1) return nullptr;
    const int mesh = model.nodes[std::size_t(shown[0])].mesh;
    return model.meshes[std::size_t(mesh)] == model.blocks->mesh ? model.blocks.get() : nullptr;
}

} // namespace zl::blocks
