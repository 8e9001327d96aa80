#include "core/motion/still.h"

#include "core/geometry/parts.h"
#include "core/geometry/world.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::motion {

namespace {

bool canBeUndone(const glm::dmat4& matrix) {
    const double det = glm::determinant(glm::dmat3(matrix));
    return std::isfinite(det) && std::abs(det) > 1e-30;
}

/// The node's mesh as it is seen, in the node's own space, or in the world's where that has no way back.
Mesh stillMesh(const Model& model, const Pose& pose, int node, bool inWorld) {
    const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)];
    Mesh seen = mesh;
    poseMesh(model, pose, node, mesh, seen, 0);
    seen.tangents.clear(); // bent with the surface; made anew from UVs and normals where they are wanted
    if (!inWorld) seen = geometry::transformed(seen, glm::inverse(pose.world[std::size_t(node)]));
    return seen;
}

/// Bones, and what hangs on them, with nothing at or below them that shows or says anything.
std::vector<char> emptyBones(const Model& before, const Model& out) {
    std::vector<char> gone(out.nodes.size(), 0), holds(out.nodes.size(), 0);
    for (const Skin& skin : before.skins)
        for (const int joint : skin.joints) gone[std::size_t(joint)] = 1;
    for (std::size_t n = out.nodes.size(); n-- > 0;) {
        const Node& node = out.nodes[n];
        if (node.mesh >= 0 || !node.marks.empty()) holds[n] = 1;
        if (holds[n] && node.parent >= 0) holds[std::size_t(node.parent)] = 1;
    }
    for (std::size_t n = 0; n < gone.size(); ++n) {
        const int parent = out.nodes[n].parent;
        gone[n] = !holds[n] && (gone[n] || (parent >= 0 && gone[std::size_t(parent)]));
    }
    return gone;
}

} // namespace

bool canMove(const Model& model) {
    return !model.skins.empty() || !model.clips.empty() ||
           std::ranges::any_of(model.meshes, [](const auto& mesh) { return !mesh->morphs.empty(); });
}

Model stillIn(const Model& model, const Pose& pose) {
    Model out = model;
    out.clips.clear(), out.skins.clear();
    out.avatar = nullptr;     // what it says is about bones and faces that move
    std::map<int, int> plain; // meshes that only lose what could move them, shared as before
    for (std::size_t n = 0; n < out.nodes.size(); ++n) {
        Node& node = out.nodes[n];
        const glm::dmat4& above = node.parent >= 0 ? pose.world[std::size_t(node.parent)] : model.placement;
        if (canBeUndone(above)) node.local = glm::inverse(above) * pose.world[n];
        const bool hangs = node.skin >= 0;
        node.turns.reset();
        node.skin = -1;
        if (node.mesh < 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        const bool bends = (hangs && !mesh.joints.empty()) || !pose.weights[n].empty();
        if (!bends && mesh.morphs.empty() && mesh.joints.empty()) continue;
        if (!bends)
            if (const auto known = plain.find(node.mesh); known != plain.end()) {
                node.mesh = known->second;
                continue;
            }
        const bool inWorld = bends && !canBeUndone(pose.world[n]);
        Mesh made = bends ? stillMesh(model, pose, int(n), inWorld) : mesh;
        made.joints.clear(), made.weights.clear(), made.morphs.clear();
        if (inWorld && canBeUndone(above)) node.local = glm::inverse(above);
        if (!bends) plain.emplace(node.mesh, int(out.meshes.size()));
        node.mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(made)));
    }
    return geometry::withoutNodes(out, emptyBones(model, out));
}

Model stillAtRest(const Model& model) {
    if (!canMove(model)) return model;
    Model bound = model;
    for (Node& node : bound.nodes) node.skin = -1;
    return stillIn(bound, posed(bound, Clip{}, 0));
}

} // namespace zl::motion
