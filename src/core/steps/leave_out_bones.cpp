#include "core/steps/leave_out_bones.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/geometry/corner_weights.h"
#include "core/motion/apart.h"

#include <map>
#include <set>

namespace zl::steps {

namespace {

/// The joints of each skin that some corner hangs on, by their places in the skin.
std::vector<std::set<int>> usedJoints(const Model& model) {
    std::vector<std::set<int>> out(model.skins.size());
    for (const Node& node : model.nodes) {
        if (node.mesh < 0 || node.skin < 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        for (std::size_t v = 0; v < mesh.weights.size() && v < mesh.joints.size(); ++v)
            for (int k = 0; k < 4; ++k)
                if (mesh.weights[v][k] > 0) out[std::size_t(node.skin)].insert(mesh.joints[v][k]);
    }
    return out;
}

/// For each joint of a skin the place, in what stays, of the one that takes over.
std::vector<int> takenOver(const Model& model, const Skin& skin, const std::vector<char>& goes) {
    std::map<int, int> places; ///< by node, of those that stay
    for (std::size_t j = 0; j < skin.joints.size(); ++j)
        if (!goes[j]) places.emplace(skin.joints[j], int(places.size()));
    std::vector<int> out(skin.joints.size(), 0);
    std::size_t next = 0;
    for (std::size_t j = 0; j < skin.joints.size(); ++j) {
        if (!goes[j]) {
            out[j] = int(next++);
            continue;
        }
        for (int node = skin.joints[j]; node >= 0; node = model.nodes[std::size_t(node)].parent)
            if (const auto stays = places.find(node); stays != places.end()) {
                out[j] = stays->second;
                break;
            }
    }
    return out;
}

} // namespace

Model LeaveOutBones::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const NamePatterns wanted(bones.patterns);
    const auto used = usedJoints(in);
    std::set<std::string> gone;
    std::size_t stays = 0;
    std::vector<std::vector<int>> other(in.skins.size());
    for (std::size_t s = 0; s < in.skins.size(); ++s) {
        const Skin& skin = in.skins[s];
        std::vector<char> goes(skin.joints.size(), 0);
        for (std::size_t j = 0; j < goes.size(); ++j) {
            const std::string& name = in.nodes[std::size_t(skin.joints[j])].name;
            goes[j] = which == Which::Unused ? !used[s].contains(int(j))
                                             : !bones.patterns.empty() && wanted.match(name);
            if (goes[j]) gone.insert(name);
        }
        if (std::ranges::count(goes, 0) == 0 && !goes.empty())
            throw Error("no bone would be left", skin.name, "Leave one in that the rest can hang on.");
        other[s] = takenOver(in, skin, goes);
        Skin& kept = out.skins[s];
        kept.joints.clear(), kept.inverseBind.clear();
        for (std::size_t j = 0; j < goes.size(); ++j) {
            if (goes[j]) continue;
            kept.joints.push_back(skin.joints[j]);
            if (j < skin.inverseBind.size()) kept.inverseBind.push_back(skin.inverseBind[j]);
        }
        stays += kept.joints.size();
    }
    context.facts = {{"left", gone.size()}, {"bones", stays}};
    if (gone.empty()) {
        context.note(in.skins.empty()         ? "there are no bones"
                     : which == Which::Unused ? "something hangs on every bone"
                                              : "no bone has such a name");
        return in;
    }
    // A mesh that hangs on two skins becomes two.
    std::map<std::pair<int, int>, int> made;
    std::set<int> taken;
    for (Node& node : out.nodes) {
        if (node.mesh < 0 || node.skin < 0 || in.meshes[std::size_t(node.mesh)]->joints.empty()) continue;
        const std::pair key{node.mesh, node.skin};
        if (const auto known = made.find(key); known != made.end()) {
            node.mesh = known->second;
            continue;
        }
        const auto& joints = other[std::size_t(node.skin)];
        auto changed = std::make_shared<const Mesh>(
            geometry::withJoints(*in.meshes[std::size_t(node.mesh)], [&](int joint) {
                return joint < int(joints.size()) ? joints[std::size_t(joint)] : 0;
            }));
        if (taken.insert(node.mesh).second) {
            out.meshes[std::size_t(node.mesh)] = std::move(changed);
        } else {
            node.mesh = int(out.meshes.size());
            out.meshes.push_back(std::move(changed));
        }
        made.emplace(key, node.mesh);
    }
    const double off = motion::farthestApart(in, out, context.progress);
    context.facts["metres"] = off;
    context.note(fmt::format("left out {}; {}; off by at most {}, at rest and in all clips",
                             showNames({gone.begin(), gone.end()}),
                             stays == 1 ? "1 bone stays" : fmt::format("{} bones stay", stays),
                             context.showLength(off < 1e-5 ? 0 : off)));
    return out;
}

} // namespace zl::steps
