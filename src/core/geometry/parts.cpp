#include "core/geometry/parts.h"

#include "core/base/words.h"
#include "core/geometry/extract.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/moving_nodes.h"
#include "core/geometry/topology.h"
#include "core/geometry/clip_keys.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace zl::geometry {

namespace {

/// Which part of its object each triangle belongs to, and what the parts are called.
struct Parting {
    std::vector<std::uint32_t> group;
    std::vector<std::string> names;
};

Parting partingOf(const Model& model, const Node& node, SplitBy by) {
    const Mesh& mesh = *model.meshes[node.mesh];
    Parting out;
    if (by == SplitBy::LoosePart) {
        std::size_t pieces = 0;
        out.group = pieceOfTriangle(mesh, joinedPlaces(mesh.positions, 0), &pieces);
        for (std::size_t i = 0; i < pieces; ++i) out.names.push_back(fmt::format("{}-{}", node.name, i + 1));
        return out;
    }
    std::map<int, std::uint32_t> number;
    for (const int material : triangleMaterials(mesh)) {
        const auto [entry, fresh] = number.try_emplace(material, std::uint32_t(number.size()));
        if (fresh)
            out.names.push_back(
                fmt::format("{}-{}", node.name, material < 0 ? "plain" : model.materials[material].name));
        out.group.push_back(entry->second);
    }
    return out;
}

} // namespace

Model splitObjects(const Model& model, SplitBy by, const NodeTest& chosen, const Progress& progress) {
    Model out = model;
    const auto moving = movingNodes(model);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0 || !chosen(node)) continue;
        const double share = 1.0 / double(model.nodes.size());
        const Progress part = progress.between(double(n) * share, double(n + 1) * share, "taking apart");
        part.report(0);
        const Parting parting = partingOf(model, node, by);
        if (parting.names.size() < 2) continue;
        auto meshes = takenApart(*model.meshes[node.mesh], parting.group, parting.names.size(), part);
        const int firstNew = static_cast<int>(out.nodes.size());
        for (std::size_t i = 0; i < meshes.size(); ++i) {
            meshes[i].name = parting.names[i];
            const int index = static_cast<int>(out.meshes.size());
            out.meshes.push_back(std::make_shared<const Mesh>(std::move(meshes[i])));
            if (i == 0) { // what hung below stays below the first
                out.nodes[n].mesh = index;
                out.nodes[n].name = parting.names[0];
            } else if (moving[n]) {
                out.nodes.push_back(
                    {parting.names[i], static_cast<int>(n), glm::dmat4(1.0), index, node.skin});
            } else {
                out.nodes.push_back({parting.names[i], node.parent, node.local, index, node.skin});
            }
        }
        copyWeightKeys(out, static_cast<int>(n), firstNew);
    }
    return withoutNodes(out, std::vector<char>(out.nodes.size(), 0));
}

Model liftedOut(const Model& model, const NodeTest& chosen) {
    Model out = model;
    const auto world = worldMatrices(model);
    const glm::dmat4 fromPlacement = glm::inverse(model.placement);
    const auto moving = movingNodes(model);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (model.nodes[n].parent < 0 || moving[n] || !chosen(model.nodes[n])) continue;
        out.nodes[n].parent = -1;
        out.nodes[n].local = fromPlacement * world[n];
    }
    return out;
}

namespace {

/// The objects that can become one with the first of them; `notes` receives which cannot, and why.
std::vector<std::size_t> joinable(const Model& model, const NodeTest& chosen,
                                  std::vector<std::string>* notes) {
    const auto mover = moverOf(model, movingNodes(model));
    std::vector<char> weighed(model.nodes.size(), 0);
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.target == Channel::Target::Weights) weighed[channel.node] = 1;
    std::vector<std::size_t> members;
    std::vector<std::string> skinned, moved, morphing;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0 || !chosen(node)) continue;
        if (node.skin >= 0)
            skinned.push_back(node.name);
        else if (weighed[n])
            morphing.push_back(node.name);
        else if (!members.empty() && mover[n] != mover[members[0]])
            moved.push_back(node.name);
        else
            members.push_back(n);
    }
    const auto say = [&](const std::vector<std::string>& names, std::string_view why) {
        if (notes && !names.empty())
            notes->push_back(fmt::format("left apart, {}: {}", why, showNames(names)));
    };
    say(skinned, "for bones hold them");
    say(moved, "for they move by themselves");
    say(morphing, "for a clip drives their morph targets");
    return members;
}

} // namespace

Model joinedObjects(const Model& model, const NodeTest& chosen, const std::string& name,
                    std::vector<std::string>* notes) {
    std::vector<std::size_t> members = joinable(model, chosen, notes);
    if (members.size() < 2) return model;
    Model out = model;
    const auto world = worldMatrices(model);
    // The others come into the first one's space, which must be one: a scale of zero leaves none.
    const auto whole =
        std::ranges::find_if(members, [&](std::size_t n) { return isFinite(glm::inverse(world[n])); });
    if (whole == members.end()) {
        if (notes) notes->emplace_back("left apart: every one of them has a scale of zero");
        return model;
    }
    std::rotate(members.begin(), whole, whole + 1);
    const glm::dmat4 toFirst = glm::inverse(world[members[0]]);
    std::vector<Mesh> side; // by side in the first one's space
    for (const std::size_t n : members) {
        side.push_back(transformed(*model.meshes[model.nodes[n].mesh], toFirst * world[n]));
        out.nodes[n].mesh = -1;
    }
    std::vector<std::string> lost;
    Mesh joined = merged(side, &lost);
    for (const std::string& what : lost)
        if (notes) notes->push_back("left out " + what);
    std::vector<std::uint32_t> all(joined.vertexCount());
    for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
    joined = withVertices(joined, all, std::vector<std::uint32_t>(joined.indices), triangleWear(joined));
    Node& first = out.nodes[members[0]];
    if (!name.empty()) first.name = name;
    joined.name = first.name;
    first.mesh = static_cast<int>(out.meshes.size());
    out.meshes.push_back(std::make_shared<const Mesh>(std::move(joined)));
    // The emptied members go, unless something hangs on them.
    std::vector<char> gone(out.nodes.size(), 0), parents(out.nodes.size(), 0);
    for (const Node& node : out.nodes)
        if (node.parent >= 0) parents[node.parent] = 1;
    const auto moving = movingNodes(model);
    for (std::size_t i = 1; i < members.size(); ++i)
        gone[members[i]] = !parents[members[i]] && !moving[members[i]];
    return withoutNodes(out, gone);
}

Model withoutWrappers(const Model& model, std::vector<int>* removed) {
    Model out = model;
    const auto moving = movingNodes(model);
    std::vector<char> holdsMoving(model.nodes.size(),
                                  0); // an animated child's keys are in its parent's space
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (moving[n] && model.nodes[n].parent >= 0) holdsMoving[model.nodes[n].parent] = 1;
    std::vector<char> gone(model.nodes.size(), 0);
    std::vector<int> wrappers;
    // Parents come before children, so a chain of wrappers is taken up one after the other.
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        Node& node = out.nodes[n];
        while (node.parent >= 0 && gone[node.parent]) {
            node.local = out.nodes[node.parent].local * node.local;
            node.parent = out.nodes[node.parent].parent;
        }
        if (model.nodes[n].mesh < 0 && !moving[n] && !holdsMoving[n])
            gone[n] = 1, wrappers.push_back(static_cast<int>(n));
    }
    if (removed) *removed = wrappers;
    return wrappers.empty() ? model : withoutNodes(out, gone);
}

Model withoutNodes(const Model& model, const std::vector<char>& gone) {
    Model out = model;
    std::vector<int> newNode(model.nodes.size(), -1), newMesh(model.meshes.size(), -1);
    out.nodes.clear();
    out.meshes.clear();
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (gone[n]) continue;
        Node node = model.nodes[n];
        if (node.parent >= 0) node.parent = newNode[node.parent];
        if (node.mesh >= 0) {
            int& mesh = newMesh[node.mesh];
            if (mesh < 0) {
                mesh = static_cast<int>(out.meshes.size());
                out.meshes.push_back(model.meshes[node.mesh]);
            }
            node.mesh = mesh;
        }
        newNode[n] = static_cast<int>(out.nodes.size());
        out.nodes.push_back(std::move(node));
    }
    for (Skin& skin : out.skins) {
        for (int& joint : skin.joints) joint = joint >= 0 ? newNode[joint] : -1;
        if (skin.root >= 0) skin.root = newNode[skin.root];
    }
    for (auto& clip : out.clips) {
        auto copy = std::make_shared<Clip>(*clip);
        for (Channel& channel : copy->channels)
            if (channel.node >= 0) channel.node = newNode[channel.node];
        std::erase_if(copy->channels, [](const Channel& channel) { return channel.node < 0; });
        clip = std::move(copy);
    }
    return out;
}

} // namespace zl::geometry
