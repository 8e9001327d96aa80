#include "core/model/model.h"

#include "core/base/error.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <set>

namespace zl {

int surfaceKindIn(Model& model, const std::string& name) {
    const auto known = std::ranges::find(model.surfaceKinds, name);
    const int index = int(known - model.surfaceKinds.begin());
    if (known != model.surfaceKinds.end()) return index;
    if (index >= mostSurfaceKinds)
        throw Error(fmt::format("more than {} surface kinds", mostSurfaceKinds), model.name,
                    "Use fewer kinds.");
    model.surfaceKinds.push_back(name);
    return index;
}

void bringSurfaces(Mesh& mesh, const Model& from, Model& to) {
    if (mesh.surfaces.empty() || from.surfaceKinds == to.surfaceKinds) return;
    std::vector<int> index(from.surfaceKinds.size(), -1);
    for (std::int16_t& kind : mesh.surfaces) {
        if (kind < 0) continue;
        int& there = index[std::size_t(kind)];
        if (there < 0) there = surfaceKindIn(to, from.surfaceKinds[std::size_t(kind)]);
        kind = std::int16_t(there);
    }
}

glm::dmat4 SourceFrame::toMetres() const {
    const glm::dmat4 scale = glm::scale(glm::dmat4(1.0), glm::dvec3(unit.metres));
    if (up == Up::Y) return scale;
    // Written out so that a quarter turn is exact: x stays, file z becomes y, file y becomes -z.
    const glm::dmat4 turn(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1);
    return turn * scale;
}

std::vector<glm::dmat4> worldMatrices(const Model& model) {
    std::vector<glm::dmat4> world(model.nodes.size());
    for (std::size_t i = 0; i < model.nodes.size(); ++i) {
        const Node& node = model.nodes[i];
        world[i] = (node.parent >= 0 ? world[node.parent] : model.placement) * node.local;
    }
    return world;
}

Model moved(Model model, const glm::dmat4& by) {
    model.placement = by * model.placement;
    model.travelled = by * model.travelled;
    for (Collider& collider : model.colliders) collider.placement = by * collider.placement;
    return model;
}

Model withFrame(Model model, const SourceFrame& frame) {
    // placement = placed * old conversion; keep what was placed, exchange the conversion.
    model.placement = model.placement * glm::inverse(model.frame.toMetres()) * frame.toMetres();
    model.frame = frame;
    return model;
}

std::size_t triangleCount(const Model& model) {
    std::size_t count = 0;
    for (const Node& node : model.nodes)
        if (node.isShown()) count += model.meshes[node.mesh]->triangleCount();
    return count;
}

std::size_t vertexCount(const Model& model) {
    std::size_t count = 0;
    for (const Node& node : model.nodes)
        if (node.isShown()) count += model.meshes[node.mesh]->vertexCount();
    return count;
}

std::size_t objectCount(const Model& model) {
    return std::ranges::count_if(model.nodes, &Node::isShown);
}

std::vector<int> shownNodes(const Model& model) {
    std::vector<int> nodes;
    for (int i = 0; i < static_cast<int>(model.nodes.size()); ++i)
        if (model.nodes[i].isShown()) nodes.push_back(i);
    return nodes;
}

std::vector<int> usedMaterials(const Model& model) {
    std::set<int> used;
    for (const Node& node : model.nodes)
        if (node.mesh >= 0 && node.visible)
            for (const MaterialRun& run : model.meshes[node.mesh]->runs)
                if (run.triangleCount > 0) used.insert(run.material);
    return {used.begin(), used.end()};
}

std::map<int, std::size_t> trianglesByMaterial(const Model& model) {
    std::map<int, std::size_t> worn;
    for (const int node : shownNodes(model))
        for (const MaterialRun& run : model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)]->runs)
            worn[run.material] += run.triangleCount;
    return worn;
}

std::vector<int> usedImages(const Model& model) {
    std::vector<int> result;
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        for (const PictureUse& use : model.materials[index].pictures)
            if (use && std::ranges::find(result, use.image) == result.end()) result.push_back(use.image);
    }
    return result;
}

} // namespace zl
