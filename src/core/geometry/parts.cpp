#include "core/geometry/parts.h"

#include "core/geometry/extract.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

#include <map>

namespace zl::geometry {

namespace {

/// Which bones and animated nodes there are.
std::vector<char> movingNodes(const Model& model) {
    std::vector<char> moving(model.nodes.size(), 0);
    for (const Skin& skin : model.skins) {
        for (const int joint : skin.joints)
            if (joint >= 0) moving[joint] = 1;
        if (skin.root >= 0) moving[skin.root] = 1;
    }
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.node >= 0) moving[channel.node] = 1;
    return moving;
}

} // namespace

Model splitObjects(const Model& model, SplitBy by, const NodeTest& chosen) {
    Model out = model;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (node.mesh < 0 || !chosen(node)) continue;
        const Mesh& mesh = *model.meshes[node.mesh];
        const auto materials = triangleMaterials(mesh);
        std::vector<std::uint32_t> group;
        std::vector<std::string> names;
        if (by == SplitBy::LoosePart) {
            std::size_t pieces = 0;
            group = pieceOfTriangle(mesh, joinedPlaces(mesh.positions, 0), &pieces);
            for (std::size_t i = 0; i < pieces; ++i) names.push_back(fmt::format("{}-{}", node.name, i + 1));
        } else {
            std::map<int, std::uint32_t> number;
            for (const int material : materials) {
                const auto [entry, fresh] = number.try_emplace(material, std::uint32_t(number.size()));
                if (fresh)
                    names.push_back(fmt::format("{}-{}", node.name,
                                                material < 0 ? "plain" : model.materials[material].name));
                group.push_back(entry->second);
            }
        }
        if (names.size() < 2) continue;
        for (std::uint32_t part = 0; part < names.size(); ++part) {
            auto own = std::make_shared<Mesh>(
                extracted(mesh, materials, [&](std::size_t t) { return group[t] == part; }));
            own->name = names[part];
            const int index = static_cast<int>(out.meshes.size());
            out.meshes.push_back(std::move(own));
            if (part == 0) { // what hung below stays below the first
                out.nodes[n].mesh = index;
                out.nodes[n].name = names[0];
            } else {
                out.nodes.push_back({names[part], node.parent, node.local, index, node.skin});
            }
        }
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

Model joinedObjects(const Model& model, const NodeTest& chosen, const std::string& name) {
    std::vector<std::size_t> members;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].mesh >= 0 && model.nodes[n].skin < 0 && chosen(model.nodes[n]))
            members.push_back(n);
    if (members.size() < 2) return model;
    Model out = model;
    const auto world = worldMatrices(model);
    const glm::dmat4 toFirst = glm::inverse(world[members[0]]);
    Model alone; // the members side by side in the first one's space
    alone.materials = model.materials;
    for (const std::size_t n : members) {
        alone.nodes.push_back({model.nodes[n].name, -1, toFirst * world[n], int(alone.meshes.size())});
        alone.meshes.push_back(model.meshes[model.nodes[n].mesh]);
        out.nodes[n].mesh = -1;
    }
    Mesh joined = flattened(alone);
    const auto materials = triangleMaterials(joined);
    std::vector<std::uint32_t> all(joined.vertexCount());
    for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
    joined = withVertices(joined, all, std::vector<std::uint32_t>(joined.indices), materials);
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
