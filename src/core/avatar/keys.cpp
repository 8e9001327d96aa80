#include "core/avatar/keys.h"

#include <algorithm>
#include <set>

namespace zl::avatar {

int nodeOf(const Model& model, NodeKey key) {
    if (key == 0) return -1;
    const auto found = std::ranges::find(model.nodes, key, &Node::key);
    return found == model.nodes.end() ? -1 : int(found - model.nodes.begin());
}

NodeKey keyOf(Model& model, int node) {
    int& key = model.nodes[std::size_t(node)].key;
    if (key != 0) return key;
    int most = 0;
    for (const Node& other : model.nodes) most = std::max(most, other.key);
    return key = most + 1;
}

std::vector<std::pair<int, int>> targetsOf(const Model& model, const Expression::Morph& bind) {
    std::vector<std::pair<int, int>> out;
    const auto take = [&](int node) {
        const int mesh = model.nodes[std::size_t(node)].mesh;
        if (mesh < 0) return;
        const auto& morphs = model.meshes[std::size_t(mesh)]->morphs;
        const auto found = std::ranges::find(morphs, bind.morph, &MorphTarget::name);
        if (found != morphs.end()) out.emplace_back(node, int(found - morphs.begin()));
    };
    if (const int node = nodeOf(model, bind.node); node >= 0) take(node);
    if (out.empty())
        for (std::size_t n = 0; n < model.nodes.size(); ++n) take(int(n));
    return out;
}

int boneOf(const Model& model, const Avatar& avatar, std::string_view role) {
    const auto found = avatar.bones.find(role);
    return found == avatar.bones.end() ? -1 : nodeOf(model, found->second);
}

int boneOf(const Model& model, std::string_view role) {
    return model.avatar ? boneOf(model, *model.avatar, role) : -1;
}

std::vector<std::string> unusedMorphs(const Model& model, const Avatar& avatar) {
    std::set<std::string> used;
    for (const Expression& expression : avatar.expressions)
        for (const Expression::Morph& bind : expression.morphs) used.insert(bind.morph);
    std::vector<std::string> out;
    for (const int node : shownNodes(model))
        for (const MorphTarget& morph :
             model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)]->morphs)
            if (used.insert(morph.name).second) out.push_back(morph.name);
    return out;
}

} // namespace zl::avatar
