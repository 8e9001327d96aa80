#include "core/motion/scaled_rig.h"

#include "core/base/error.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::motion {

namespace {

using Target = Channel::Target;

constexpr double close = 1e-6;

/// What a node is scaled by along all axes; throws where that is not one number.
double scaleOf(const Node& node) {
    const glm::dmat3 m(node.local);
    const double x = glm::length(m[0]), y = glm::length(m[1]), z = glm::length(m[2]);
    const double least = std::min({x, y, z}), most = std::max({x, y, z});
    if (!(least > 0) || !std::isfinite(most)) throw Error("has a scale of 0", node.name, "Scale it first.");
    const double lean =
        std::max({std::abs(glm::dot(m[0], m[1])) / (x * y), std::abs(glm::dot(m[1], m[2])) / (y * z),
                  std::abs(glm::dot(m[0], m[2])) / (x * z)});
    if (most - least > 1e-4 * most || lean > 1e-4)
        throw Error(
            fmt::format("is scaled by {}, {} and {} along its axes, which no bone below it could keep",
                        showMeasure(x), showMeasure(y), showMeasure(z)),
            node.name, "Scale it alike along all axes first.");
    const double scale = (x + y + z) / 3;
    return std::abs(scale - 1) < close ? 1 : scale;
}

bool scalesAlike(const Node& node) {
    const glm::dmat3 m(node.local);
    const glm::dmat3 square = glm::transpose(m) * m;
    for (int c = 0; c < 3; ++c)
        for (int r = 0; r < 3; ++r)
            if (!(std::abs(square[c][r] - (c == r ? square[0][0] : 0)) <= 1e-4 * square[0][0])) return false;
    return square[0][0] > 0;
}

/// Bones, what clips move, and what is above them, by node; below and beside them what shows nothing itself,
/// or what more hangs on. None where there is no bone and nothing moves.
std::vector<char> rigNodes(const Model& model) {
    std::vector<char> rig(model.nodes.size(), 0);
    const auto take = [&](int node) {
        for (; node >= 0 && !rig[std::size_t(node)]; node = model.nodes[std::size_t(node)].parent)
            rig[std::size_t(node)] = 1;
    };
    for (const Skin& skin : model.skins) std::ranges::for_each(skin.joints, take);
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.target != Target::Weights) take(channel.node);
    if (std::ranges::count(rig, 1) == 0) return rig;
    std::vector<char> carries(model.nodes.size(), 0);
    for (const Node& node : model.nodes)
        if (node.parent >= 0) carries[std::size_t(node.parent)] = 1;
    for (std::size_t n = 0; n < rig.size(); ++n) {
        const Node& node = model.nodes[n];
        if ((node.parent < 0 || rig[std::size_t(node.parent)]) && (carries[n] || node.mesh < 0))
            rig[n] |= scalesAlike(node);
    }
    return rig;
}

void multiply(Channel& channel, double by) {
    for (float& value : channel.values) value = float(double(value) * by);
}

Mesh scaled(const Mesh& mesh, double by) {
    Mesh out = mesh;
    for (glm::vec3& p : out.positions) p = glm::vec3(by * glm::dvec3(p));
    for (MorphTarget& morph : out.morphs)
        for (glm::vec3& p : morph.positions) p = glm::vec3(by * glm::dvec3(p));
    out.cut = {};
    return out;
}

/// What hangs on the rig and has taken a scale of it upon itself gives that to its mesh, where nothing else
/// rests on the node: by node, 1 for those that keep it. A skin's meshes go together or not at all, for they
/// share its binds.
std::vector<double> givenToMeshes(const Model& model, const std::vector<char>& rig,
                                  const std::vector<double>& taken) {
    std::vector<double> out = taken;
    for (std::size_t n = 0; n < out.size(); ++n)
        if (rig[n] || model.nodes[n].mesh < 0) out[n] = 1;
    for (const Node& node : model.nodes)
        if (node.parent >= 0) out[std::size_t(node.parent)] = 1;
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.node >= 0 && channel.target == Target::Scale) out[std::size_t(channel.node)] = 1;
    for (std::size_t s = 0; s < model.skins.size(); ++s) {
        std::vector<std::size_t> wearing;
        for (std::size_t n = 0; n < out.size(); ++n)
            if (model.nodes[n].skin == int(s) && model.nodes[n].mesh >= 0) wearing.push_back(n);
        for (const std::size_t n : wearing)
            if (std::abs(out[n] - out[wearing.front()]) > close)
                for (const std::size_t other : wearing) out[other] = 1;
    }
    return out;
}

void giveToMeshes(Model& model, const std::vector<double>& given) {
    std::map<std::pair<int, double>, int> made;
    std::map<int, double> skins;
    for (std::size_t n = 0; n < given.size(); ++n) {
        if (given[n] == 1) continue;
        Node& node = model.nodes[n];
        for (int k = 0; k < 3; ++k) node.local[k] /= given[n];
        const auto [found, isNew] = made.try_emplace({node.mesh, given[n]}, int(model.meshes.size()));
        if (isNew)
            model.meshes.push_back(
                std::make_shared<const Mesh>(scaled(*model.meshes[std::size_t(node.mesh)], given[n])));
        node.mesh = found->second;
        if (node.skin >= 0) skins[node.skin] = given[n];
    }
    for (const auto& [skin, by] : skins)
        for (glm::mat4& bind : model.skins[std::size_t(skin)].inverseBind)
            bind = glm::mat4(glm::scale(glm::dmat4(bind), glm::dvec3(1 / by)));
}

} // namespace

bool hasRig(const Model& model) {
    return std::ranges::count(rigNodes(model), 0) < std::ssize(model.nodes);
}

double scaleOfWhole(const Model& model) {
    const glm::dmat3 m(model.placement);
    const double scale = std::cbrt(std::abs(glm::determinant(m)));
    if (!hasRig(model) || !(scale > 0) || !std::isfinite(scale)) return 1;
    const glm::dmat3 square = glm::transpose(m) * m / (scale * scale);
    for (int c = 0; c < 3; ++c)
        for (int r = 0; r < 3; ++r)
            if (!(std::abs(square[c][r] - (c == r ? 1 : 0)) < 1e-6)) return 1;
    return std::abs(scale - 1) < close ? 1 : scale;
}

std::vector<int> scaledRigNodes(const Model& model) {
    std::vector<int> out;
    const auto rig = rigNodes(model);
    for (std::size_t n = 0; n < rig.size(); ++n) {
        const glm::dmat3 m(model.nodes[n].local);
        const auto off = [&](int k) { return std::abs(glm::length(m[k]) - 1) > close; };
        if (rig[n] && (off(0) || off(1) || off(2))) out.push_back(int(n));
    }
    return out;
}

Model withRigScaleBaked(const Model& model) {
    const auto rig = rigNodes(model);
    std::vector<double> own(model.nodes.size(), 1), all(model.nodes.size(), 1);
    Model out = model;
    const double whole = scaleOfWhole(model);
    for (int c = 0; c < 3; ++c) out.placement[c] /= whole;
    const auto above = [&](std::size_t n) {
        const int parent = model.nodes[n].parent;
        if (parent < 0) return whole;
        return rig[std::size_t(parent)] ? all[std::size_t(parent)] : 1.0;
    };
    for (std::size_t n = 0; n < model.nodes.size(); ++n) { // parents stand before their children
        if (rig[n]) own[n] = scaleOf(model.nodes[n]);
        all[n] = rig[n] ? above(n) * own[n] : 1;
        glm::dmat4& local = out.nodes[n].local;
        const double by = rig[n] ? 1 / own[n] : above(n);
        for (int k = 0; k < 3; ++k) local[k] *= by;
        local[3] = glm::dvec4(glm::dvec3(local[3]) * above(n), 1);
    }
    for (Skin& skin : out.skins)
        for (std::size_t j = 0; j < skin.joints.size() && j < skin.inverseBind.size(); ++j)
            skin.inverseBind[j] =
                glm::mat4(glm::scale(glm::dmat4(1), glm::dvec3(all[std::size_t(skin.joints[j])])) *
                          glm::dmat4(skin.inverseBind[j]));
    for (auto& clip : out.clips) {
        Clip changed = *clip;
        changed.way *= whole;
        for (Channel& channel : changed.channels) {
            if (channel.node < 0) continue;
            const auto n = std::size_t(channel.node);
            if (channel.target == Target::Translation) multiply(channel, above(n));
            if (channel.target == Target::Scale) multiply(channel, rig[n] ? 1 / own[n] : above(n));
        }
        clip = std::make_shared<const Clip>(std::move(changed));
    }
    std::vector<double> taken(model.nodes.size(), 1);
    for (std::size_t n = 0; n < taken.size(); ++n)
        if (!rig[n]) taken[n] = above(n);
    giveToMeshes(out, givenToMeshes(model, rig, taken));
    // What a node of the rig shows itself was seen at the scale that the node has lost.
    std::map<std::pair<int, double>, int> made;
    for (std::size_t n = 0; n < out.nodes.size(); ++n) {
        Node& node = out.nodes[n];
        if (!rig[n] || node.mesh < 0 || node.skin >= 0 || all[n] == 1) continue;
        const auto [found, isNew] = made.try_emplace({node.mesh, all[n]}, int(out.meshes.size()));
        if (isNew)
            out.meshes.push_back(
                std::make_shared<const Mesh>(scaled(*out.meshes[std::size_t(node.mesh)], all[n])));
        node.mesh = found->second;
    }
    return out;
}

} // namespace zl::motion
