#include "core/model/block_build.h"

#include "core/base/error.h"
#include "core/model/model.h"

#include <algorithm>

namespace zl::blocks {

namespace {

constexpr std::int64_t mostCells = 64'000'000; ///< 400³; what platforms take is far below

} // namespace

std::size_t cellsIn(glm::ivec3 size) {
    const auto slice = std::int64_t(size.x) * size.y;
    if (size.x < 0 || size.y < 0 || size.z < 0 || slice > mostCells || slice * size.z > mostCells)
        throw Error("that is more blocks than can be worked with", {}, "Make it smaller, or blocks larger.");
    return std::size_t(slice * size.z);
}

Build::Build(glm::ivec3 size) : size_(size), there_(cellsIn(size), 0), blocks_(there_.size()) {}

std::size_t Build::count() const {
    return std::size_t(std::ranges::count(there_, 1));
}

std::array<std::size_t, std::size(kindNames)> Build::countByKind() const {
    std::array<std::size_t, std::size(kindNames)> out{};
    for (std::size_t i = 0; i < cellCount(); ++i)
        if (isThere(i)) ++out[std::size_t(block(i).kind)];
    return out;
}

const Hull* hullOf(const Model& model) {
    const auto shown = shownNodes(model);
    if (!model.blocks || shown.size() != 1) return nullptr;
    const int mesh = model.nodes[std::size_t(shown[0])].mesh;
    return model.meshes[std::size_t(mesh)] == model.blocks->mesh ? model.blocks.get() : nullptr;
}

} // namespace zl::blocks
