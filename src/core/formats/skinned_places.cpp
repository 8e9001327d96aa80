#include "core/formats/skinned_places.h"

#include "core/geometry/solids.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"

#include <cmath>

namespace zl::formats {

namespace {

using Box = std::vector<glm::vec3>; ///< its corners

constexpr double close = 1e-4; ///< of what is seen; binds are kept as single floats

/// Whether two matrices take a box to the same place.
bool areAlike(const glm::dmat4& a, const glm::dmat4& b, const Box& box) {
    const auto seen = [&](const glm::dmat4& m, std::size_t i) {
        return glm::dvec3(m * glm::dvec4(glm::dvec3(box[i]), 1));
    };
    double size = 0, apart = 0;
    for (std::size_t i = 0; i < box.size(); ++i) {
        size = std::max(size, glm::distance(seen(a, 0), seen(a, i)));
        apart = std::max(apart, glm::distance(seen(a, i), seen(b, i)));
    }
    return apart <= close * size;
}

/// What takes a skin's corners from where they are kept to where they are seen at rest, when that is the same
/// for all bones that the mesh hangs on; null otherwise.
std::optional<glm::dmat4> shownAt(const Mesh& mesh, const Skin& skin, const std::vector<glm::dmat4>& world,
                                  const Box& box) {
    std::vector<char> used(skin.joints.size(), 0);
    for (std::size_t v = 0; v < mesh.joints.size() && v < mesh.weights.size(); ++v)
        for (int k = 0; k < 4; ++k)
            if (mesh.weights[v][k] > 0 && mesh.joints[v][k] < used.size()) used[mesh.joints[v][k]] = 1;
    std::optional<glm::dmat4> out;
    for (std::size_t j = 0; j < used.size() && j < skin.inverseBind.size(); ++j) {
        if (!used[j]) continue;
        const glm::dmat4 one = world[std::size_t(skin.joints[j])] * glm::dmat4(skin.inverseBind[j]);
        if (!out)
            out = one;
        else if (!areAlike(*out, one, box))
            return std::nullopt;
    }
    return out;
}

} // namespace

void placeSkinnedMeshes(Model& model) {
    if (model.skins.empty()) return;
    std::vector<char> stays(model.nodes.size(), 0);
    for (const Node& node : model.nodes)
        if (node.parent >= 0) stays[std::size_t(node.parent)] = 1;
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.node >= 0 && channel.target != Channel::Target::Weights)
                stays[std::size_t(channel.node)] = 1;
    Model bare; // places in the file's own numbers
    bare.nodes = model.nodes;
    const auto world = worldMatrices(bare);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        Node& node = model.nodes[n];
        if (stays[n] || node.mesh < 0 || node.skin < 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        const auto bounds = geometry::meshBounds(mesh);
        if (bounds.empty()) continue;
        const Box box = geometry::boxMesh(bounds.min, bounds.max).positions;
        const auto shown = shownAt(mesh, model.skins[std::size_t(node.skin)], world, box);
        if (!shown || areAlike(*shown, world[n], box)) continue;
        const glm::dmat4 above = node.parent < 0 ? glm::dmat4(1) : world[std::size_t(node.parent)];
        const glm::dmat4 local = glm::inverse(above) * *shown;
        if (isFinite(local)) node.local = local;
    }
}

} // namespace zl::formats
