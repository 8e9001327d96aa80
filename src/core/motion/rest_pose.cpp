#include "core/motion/rest_pose.h"

#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/motion/corner_matrix.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace zl::motion {

namespace {

using Target = Channel::Target;

/// What stands at `of`, seen from `from`. Throws Error where that cannot be told, as from a bone pressed
/// flat.
glm::dmat4 seenFrom(const glm::dmat4& from, const glm::dmat4& of, const std::string& name) {
    const glm::dmat4 seen = glm::inverse(from) * of;
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 4; ++r)
            if (!std::isfinite(float(seen[c][r])))
                throw Error(
                    fmt::format("\"{}\" has no size in this pose, so nothing can be bound to it", name), {},
                    "Choose another moment, or leave that bone out.");
    return seen;
}

/// What a local matrix is as a clip holds it.
std::map<Target, std::vector<float>> heldBy(const glm::dmat4& local) {
    glm::dvec3 scale;
    for (int k = 0; k < 3; ++k) scale[k] = glm::length(glm::dvec3(local[k]));
    if (glm::determinant(glm::dmat3(local)) < 0) scale.x = -scale.x; // as turnIn has it
    const glm::dquat q = glm::normalize(turnIn(local));
    return {{Target::Translation, {float(local[3].x), float(local[3].y), float(local[3].z)}},
            {Target::Rotation, {float(q.x), float(q.y), float(q.z), float(q.w)}},
            {Target::Scale, {float(scale.x), float(scale.y), float(scale.z)}}};
}

bool same(const glm::dmat4& a, const glm::dmat4& b) {
    for (int c = 0; c < 4; ++c)
        if (glm::length(a[c] - b[c]) > 1e-9) return false;
    return true;
}

/// Gives nodes other rest matrices, and every clip keys for what it had held at rest.
void giveRest(Model& model, const std::vector<glm::dmat4>& locals) {
    std::vector<int> changed;
    for (std::size_t n = 0; n < locals.size(); ++n)
        if (!same(locals[n], model.nodes[n].local)) changed.push_back(int(n));
    for (auto& clip : model.clips) {
        std::set<std::pair<int, Target>> moved;
        for (const Channel& channel : clip->channels) moved.insert({channel.node, channel.target});
        Clip made = *clip;
        for (const int n : changed) {
            const auto before = heldBy(model.nodes[std::size_t(n)].local),
                       after = heldBy(locals[std::size_t(n)]);
            for (const auto& [target, values] : before)
                if (!moved.contains({n, target}) && values != after.at(target))
                    made.channels.push_back({n, target, Channel::Curve::Linear, {0}, values});
        }
        if (made.channels.size() != clip->channels.size())
            clip = std::make_shared<const Clip>(std::move(made));
    }
    for (std::size_t n = 0; n < locals.size(); ++n) model.nodes[n].local = locals[n];
}

/// A skinned mesh as it stands in a pose, in the space that its node had at rest.
Mesh bent(const Mesh& mesh, const std::vector<glm::dmat4>& joints, const glm::dmat4& back) {
    Mesh out = mesh;
    out.cut = {};
    out.tangents.clear();
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        const auto hung = cornerMatrix(mesh, v, joints);
        if (!hung) continue;
        const glm::dmat4 matrix = back * *hung;
        out.positions[v] = glm::vec3(matrix * glm::dvec4(mesh.positions[v], 1));
        const glm::dmat3 turn = geometry::normalMatrixOf(glm::dmat3(matrix));
        if (!mesh.normals.empty()) {
            const glm::dvec3 n = turn * glm::dvec3(mesh.normals[v]);
            if (glm::length(n) > 0) out.normals[v] = glm::vec3(glm::normalize(n));
        }
        for (MorphTarget& morph : out.morphs) {
            morph.positions[v] = glm::vec3(glm::dmat3(matrix) * glm::dvec3(morph.positions[v]));
            if (!morph.normals.empty()) morph.normals[v] = glm::vec3(turn * glm::dvec3(morph.normals[v]));
        }
    }
    return out;
}

} // namespace

Model withRestFrom(const Model& model, const Clip& clip, double moment) {
    const Pose pose = posed(model, clip, moment);
    Model out = model;
    std::vector<glm::dmat4> locals;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        locals.push_back(localAt(model, clip, int(n), moment));
    giveRest(out, locals);
    // Parts that share a mesh or a skin may stand in different places; each gets its own.
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0 || node.skin < 0 || model.meshes[std::size_t(node.mesh)]->weights.empty()) continue;
        // Its node stands there from now on, and its corners are told from it.
        const glm::dmat4 back = seenFrom(pose.world[n], glm::dmat4(1), node.name);
        const Skin& skin = model.skins[std::size_t(node.skin)];
        out.nodes[n].mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(
            bent(*model.meshes[std::size_t(node.mesh)], pose.joints[std::size_t(node.skin)], back)));
        Skin bound = skin;
        for (std::size_t j = 0; j < skin.joints.size(); ++j) {
            const auto joint = std::size_t(skin.joints[j]);
            bound.inverseBind[j] =
                glm::mat4(seenFrom(pose.world[joint], pose.world[n], model.nodes[joint].name));
        }
        out.nodes[n].skin = int(out.skins.size());
        out.skins.push_back(std::move(bound));
    }
    // Skins that nothing hangs on any longer go; the others keep their order.
    std::vector<int> number(out.skins.size(), -1);
    std::vector<Skin> kept;
    for (Node& node : out.nodes) {
        if (node.skin < 0) continue;
        int& to = number[std::size_t(node.skin)];
        if (to < 0) to = int(kept.size()), kept.push_back(out.skins[std::size_t(node.skin)]);
        node.skin = to;
    }
    out.skins = std::move(kept);
    return out;
}

Model withRestAsBound(const Model& model) {
    std::vector<glm::dmat4> locals;
    for (const Node& node : model.nodes) locals.push_back(node.local);
    // Where a joint is bound, seen from the node that its skin's first part stands on.
    std::map<int, glm::dmat4> bound;
    const auto world = worldMatrices(model);
    for (std::size_t s = 0; s < model.skins.size(); ++s) {
        const auto wearing = std::ranges::find(model.nodes, int(s), &Node::skin);
        if (wearing == model.nodes.end()) continue;
        const glm::dmat4 at = world[std::size_t(wearing - model.nodes.begin())];
        const Skin& skin = model.skins[s];
        for (std::size_t j = 0; j < skin.joints.size(); ++j)
            bound.try_emplace(skin.joints[j], at * seenFrom(glm::dmat4(skin.inverseBind[j]), glm::dmat4(1),
                                                            model.nodes[std::size_t(skin.joints[j])].name));
    }
    std::vector<glm::dmat4> now(model.nodes.size());
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const int parent = model.nodes[n].parent;
        const glm::dmat4 above = parent >= 0 ? now[std::size_t(parent)] : model.placement;
        if (const auto found = bound.find(int(n)); found != bound.end())
            locals[n] = seenFrom(above, found->second, model.nodes[n].name);
        now[n] = above * locals[n];
    }
    Model out = model;
    giveRest(out, locals);
    return out;
}

OffBind offBind(const Model& model) {
    OffBind most;
    const auto world = worldMatrices(model);
    for (std::size_t s = 0; s < model.skins.size(); ++s) {
        const auto wearing = std::ranges::find(model.nodes, int(s), &Node::skin);
        if (wearing == model.nodes.end()) continue;
        const glm::dmat4 at = world[std::size_t(wearing - model.nodes.begin())];
        const Skin& skin = model.skins[s];
        for (std::size_t j = 0; j < skin.joints.size(); ++j) {
            const glm::dmat4 bound = at * glm::inverse(glm::dmat4(skin.inverseBind[j])),
                             stands = world[std::size_t(skin.joints[j])];
            const double far = glm::length(glm::dvec3(stands[3] - bound[3]));
            const glm::dquat by =
                glm::normalize(turnIn(stands)) * glm::inverse(glm::normalize(turnIn(bound)));
            const double turn = 2 * std::acos(std::min(1.0, std::abs(by.w)));
            if (far > most.place || turn > most.turn) most.node = skin.joints[j];
            most.place = std::max(most.place, far), most.turn = std::max(most.turn, turn);
        }
    }
    return most;
}

} // namespace zl::motion
