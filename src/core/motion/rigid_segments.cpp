#include "core/motion/rigid_segments.h"

#include "core/geometry/extract.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/world.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"
#include "core/motion/rounded_joint.h"

#include <algorithm>
#include <map>
#include <optional>

namespace zl::motion {

namespace {

glm::dmat4 bindOf(const Skin& skin, std::size_t joint) {
    return joint < skin.inverseBind.size() ? glm::dmat4(skin.inverseBind[joint]) : glm::dmat4(1.0);
}

/// The joint that has most of each triangle; the number of joints where its corners hang on nothing.
std::vector<int> heaviest(const Mesh& mesh, std::size_t joints) {
    std::vector<int> out;
    out.reserve(mesh.triangleCount());
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        std::map<int, double> share;
        for (int c = 0; c < 3; ++c) {
            const std::uint32_t v = mesh.indices[3 * t + std::size_t(c)];
            for (int k = 0; k < 4; ++k)
                if (mesh.weights[v][k] > 0 && mesh.joints[v][k] < joints)
                    share[mesh.joints[v][k]] += double(mesh.weights[v][k]);
        }
        const auto most = std::ranges::max_element(share, {}, [](const auto& entry) { return entry.second; });
        out.push_back(most == share.end() ? int(joints) : most->first);
    }
    return out;
}

/// A border that may open: the segment that is rounded, and where it is seen from.
struct Border {
    int child = -1; ///< joint of the skin
    std::vector<int> beyond;
    std::vector<glm::dvec3> places; ///< in the mesh's own space
    std::optional<RoundedJoint> rounded;
    const Skin* skin = nullptr;
    std::size_t skinNumber = 0;
};

/// How deep a node lies.
int depthOf(const Model& model, int node) {
    int depth = 0;
    for (; node >= 0; node = model.nodes[std::size_t(node)].parent) ++depth;
    return depth;
}

class Taking {
public:
    Taking(const Model& model, const SegmentsWanted& wanted, const Progress& progress)
        : model_(model), wanted_(wanted), progress_(progress) {}

    RigidSegments take() {
        RigidSegments out{.model = model_};
        for (std::size_t n = 0; n < model_.nodes.size(); ++n) {
            const Node& node = model_.nodes[n];
            if (node.mesh < 0 || node.skin < 0) continue;
            if (node.level > 0) { // a coarser copy is one of the whole, which is no more
                out.model.nodes[n].mesh = out.model.nodes[n].skin = -1;
                continue;
            }
            const Mesh& mesh = *model_.meshes[std::size_t(node.mesh)];
            if (mesh.weights.empty() || mesh.joints.empty() || mesh.indices.empty()) continue;
            progress_.checkCancel();
            takeApart(int(n), mesh, model_.skins[std::size_t(node.skin)], out);
        }
        show(out);
        measure(out);
        return out;
    }

private:
    void takeApart(int n, const Mesh& whole, const Skin& skin, RigidSegments& out) {
        Mesh mesh = whole;
        out.morphs += mesh.morphs.size();
        mesh.morphs.clear(), mesh.tangents.clear();
        const std::size_t joints = skin.joints.size();
        const auto groups = heaviest(mesh, joints);
        mesh.joints.clear(), mesh.weights.clear(), mesh.cut = {};
        std::vector<std::uint32_t> numbers(groups.begin(), groups.end());
        auto parts = geometry::takenApart(mesh, numbers, joints + 1, progress_);
        std::vector<std::vector<Wear>> wear;
        for (const Mesh& part : parts) wear.push_back(triangleWear(part));
        for (const CutLoop& loop : cutLoops(mesh, groups)) {
            const auto own = std::size_t(loop.group);
            if (own >= joints) continue;
            // Beyond it is whatever most of its edges border on.
            std::map<int, int> count;
            for (const int other : loop.beyond) ++count[other];
            const int other =
                std::ranges::max_element(count, {}, [](const auto& entry) { return entry.second; })->first;
            const auto deep = [&](int joint) {
                return std::size_t(joint) < joints
                           ? std::pair(depthOf(model_, skin.joints[std::size_t(joint)]), joint)
                           : std::pair(-1, joint);
            };
            const bool isChild = deep(loop.group) > deep(other);
            Border border{loop.group,   loop.beyond, {},
                          std::nullopt, &skin,       std::size_t(model_.nodes[std::size_t(n)].skin)};
            if (isChild) {
                for (const std::uint32_t corner : loop.corners)
                    border.places.emplace_back(mesh.positions[corner]);
                const glm::dvec3 joint(glm::inverse(bindOf(skin, own))[3]);
                if (wanted_.overlap > 0)
                    border.rounded = roundedJoint(mesh, loop, joint, wanted_.overlap, wanted_.closed);
                ++out.borders;
                out.besideTheirCut += wanted_.overlap > 0 && !border.rounded;
            }
            const std::size_t before = wear[own].size();
            closeBorder(parts[own], wear[own], mesh, loop, border.rounded ? &*border.rounded : nullptr,
                        wanted_.closed);
            out.added += long(wear[own].size() - before);
            if (isChild) borders_.push_back(std::move(border));
        }
        for (std::size_t g = 0; g < parts.size(); ++g) {
            if (parts[g].indices.empty()) continue;
            const bool hangs = g < joints;
            // In the bone's own space; what hangs on nothing stays with its node.
            Mesh part = hangs ? geometry::transformed(withRuns(std::move(parts[g]), wear[g]), bindOf(skin, g))
                              : withRuns(std::move(parts[g]), wear[g]);
            segments_[hangs ? skin.joints[g] : n].push_back(std::move(part));
        }
        out.model.nodes[std::size_t(n)].mesh = out.model.nodes[std::size_t(n)].skin = -1;
    }

    static Mesh withRuns(Mesh mesh, const std::vector<Wear>& wear) {
        std::vector<std::uint32_t> all(mesh.vertexCount());
        for (std::uint32_t v = 0; v < all.size(); ++v) all[v] = v;
        auto indices = mesh.indices;
        return withVertices(mesh, all, std::move(indices), wear);
    }

    void show(RigidSegments& out) {
        for (auto& [bone, meshes] : segments_) {
            Mesh mesh = meshes.size() == 1 ? std::move(meshes[0]) : geometry::merged(meshes);
            mesh.name = out.model.nodes[std::size_t(bone)].name + " segment";
            Node node{mesh.name, bone, glm::dmat4(1.0), int(out.model.meshes.size())};
            out.model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
            out.model.nodes.push_back(std::move(node));
            ++out.segments;
        }
        // Morph weights have nothing left to move.
        for (auto& clip : out.model.clips) {
            Clip kept = *clip;
            std::erase_if(kept.channels, [&](const Channel& channel) {
                return channel.target == Channel::Target::Weights && channel.node >= 0 &&
                       out.model.nodes[std::size_t(channel.node)].mesh < 0;
            });
            if (kept.channels.size() != clip->channels.size())
                clip = std::make_shared<const Clip>(std::move(kept));
        }
        if (!segments_.empty() &&
            std::ranges::none_of(out.model.nodes, [](const Node& n) { return n.skin >= 0; }))
            out.model.skins.clear();
    }

    void measure(RigidSegments& out) const {
        for (const auto& clip : model_.clips) {
            const double length = lengthOf(*clip);
            const int moments = std::clamp(int(length * 30), 1, 60);
            for (int m = 0; m <= moments; ++m) {
                progress_.checkCancel();
                const Pose pose = posed(model_, *clip, length * m / moments);
                for (const Border& border : borders_) {
                    const double gap = gapOf(border, pose);
                    if (gap <= out.gap) continue;
                    out.gap = gap, out.gapIn = clip->name;
                    const int bone = border.skin->joints[std::size_t(border.child)];
                    out.gapAt = model_.nodes[std::size_t(bone)].name;
                }
            }
        }
    }

    double gapOf(const Border& border, const Pose& pose) const {
        const auto& joints = pose.joints[border.skinNumber];
        const glm::dmat4& own = joints[std::size_t(border.child)];
        const glm::dmat4 back = glm::inverse(own);
        const double scale = std::cbrt(std::abs(glm::determinant(glm::dmat3(own))));
        double gap = 0;
        for (std::size_t k = 0; k < border.places.size(); ++k) {
            if (std::size_t(border.beyond[k]) >= joints.size()) continue;
            const glm::dvec3 other =
                glm::dvec3(back * (joints[std::size_t(border.beyond[k])] * glm::dvec4(border.places[k], 1)));
            gap = std::max(gap, scale * (border.rounded ? border.rounded->standsOff(other)
                                                        : glm::length(other - border.places[k])));
        }
        return gap;
    }

    const Model& model_;
    const SegmentsWanted& wanted_;
    const Progress& progress_;
    std::vector<Border> borders_;
    std::map<int, std::vector<Mesh>> segments_; ///< by node
};

} // namespace

bool isStiff(const Mesh& mesh) {
    int only = -1;
    for (std::size_t v = 0; v < mesh.weights.size(); ++v)
        for (int k = 0; k < 4; ++k) {
            if (!(mesh.weights[v][k] > 0)) continue;
            if (only < 0) only = mesh.joints[v][k];
            if (mesh.joints[v][k] != only) return false;
        }
    return true;
}

RigidSegments rigidSegments(const Model& model, const SegmentsWanted& wanted, const Progress& progress) {
    return Taking(model, wanted, progress).take();
}

} // namespace zl::motion
