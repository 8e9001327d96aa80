#include "core/motion/posed.h"

#include "core/geometry/world.h"
#include "core/motion/corner_matrix.h"
#include "core/motion/pose.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>

namespace zl::motion {

double lengthOf(const Clip& clip) {
    double length = 0;
    for (const Channel& channel : clip.channels)
        if (!channel.times.empty()) length = std::max(length, double(channel.times.back()));
    return length;
}

std::size_t keysOf(const Clip& clip) {
    std::size_t keys = 0;
    for (const Channel& channel : clip.channels) keys += channel.times.size();
    return keys;
}

Pose posed(const Model& model, const Clip& clip, double seconds) {
    Pose pose;
    pose.world.resize(model.nodes.size());
    pose.weights.resize(model.nodes.size());
    std::vector<char> animated(model.nodes.size(), 0);
    for (const Channel& channel : clip.channels) {
        if (channel.node < 0) continue;
        if (channel.target == Channel::Target::Weights)
            pose.weights[std::size_t(channel.node)] = valueAt(channel, seconds);
        else
            animated[std::size_t(channel.node)] = 1;
    }
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        const glm::dmat4& above = node.parent >= 0 ? pose.world[std::size_t(node.parent)] : model.placement;
        pose.world[n] = above * (animated[n] ? localAt(model, clip, int(n), seconds) : node.local);
    }
    for (const Skin& skin : model.skins) {
        auto& joints = pose.joints.emplace_back();
        for (std::size_t j = 0; j < skin.joints.size(); ++j) {
            const glm::dmat4 bind =
                j < skin.inverseBind.size() ? glm::dmat4(skin.inverseBind[j]) : glm::dmat4(1.0);
            joints.push_back(pose.world[std::size_t(skin.joints[j])] * bind);
        }
    }
    return pose;
}

void poseMesh(const Model& model, const Pose& pose, int node, const Mesh& mesh, Mesh& out,
              std::size_t first) {
    const glm::dmat4& world = pose.world[std::size_t(node)];
    const std::vector<double>& weights = pose.weights[std::size_t(node)];
    const int skin = model.nodes[std::size_t(node)].skin;
    const auto* joints = skin >= 0 ? &pose.joints[std::size_t(skin)] : nullptr;
    const glm::dmat3 turn = geometry::normalMatrixOf(glm::dmat3(world));
    const bool skinned = joints && !mesh.joints.empty() && !mesh.weights.empty();
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.vertexCount(), 4096), [&](const auto& range) {
        for (std::size_t v = range.begin(); v < range.end(); ++v) {
            glm::dvec3 p(mesh.positions[v]), n(mesh.normals.empty() ? glm::vec3(0) : mesh.normals[v]);
            for (std::size_t m = 0; m < std::min(weights.size(), mesh.morphs.size()); ++m) {
                if (weights[m] == 0) continue;
                p += weights[m] * glm::dvec3(mesh.morphs[m].positions[v]);
                if (!mesh.morphs[m].normals.empty()) n += weights[m] * glm::dvec3(mesh.morphs[m].normals[v]);
            }
            // A corner that hangs on nothing stays with its node.
            const auto hung = skinned ? cornerMatrix(mesh, v, *joints) : std::nullopt;
            const glm::dmat4& matrix = hung ? *hung : world;
            out.positions[first + v] = glm::vec3(matrix * glm::dvec4(p, 1));
            if (out.normals.empty()) continue;
            const glm::dvec3 turned = (hung ? geometry::normalMatrixOf(glm::dmat3(matrix)) : turn) * n;
            const double length = glm::length(turned);
            if (length > 0) out.normals[first + v] = glm::vec3(turned / length);
        }
    });
}

void poseFlattened(const Model& model, const Pose& pose, Mesh& rest) {
    // Flattening parts corners that differently placed pictures share; the same is done here, where there are
    // any.
    const bool parted = std::ranges::any_of(model.materials, [](const Material& material) {
        const PictureUse* use = material.leading();
        return use && (!use->placement.isPlain() || use->uvSet != 0);
    });
    std::size_t first = 0;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0 || !node.isShown()) continue;
        const Mesh& own = *model.meshes[std::size_t(node.mesh)];
        const std::optional<Mesh> apart =
            parted ? std::optional(geometry::withPlacedUvs(own, model.materials)) : std::nullopt;
        const Mesh& mesh = apart ? *apart : own;
        poseMesh(model, pose, int(n), mesh, rest, first);
        first += mesh.vertexCount();
    }
}

} // namespace zl::motion
