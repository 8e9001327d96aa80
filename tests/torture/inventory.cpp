#include "inventory.h"

#include <algorithm>

namespace torture {

namespace {

bool hasMorphs(const zl::Model& model, int node) {
    const int mesh = model.nodes[std::size_t(node)].mesh;
    return mesh >= 0 && !model.meshes[std::size_t(mesh)]->morphs.empty();
}

} // namespace

Inventory inventoryOf(const zl::Model& model) {
    Inventory out;
    std::set<std::string> morphs, materials;
    for (const zl::Node& node : model.nodes) {
        if (node.mesh < 0) continue;
        const zl::Mesh& mesh = *model.meshes[node.mesh];
        if (mesh.indices.empty()) continue; // what no triangle wears is nobody's loss
        out["triangle"] += mesh.triangleCount();
        out["UV"] = std::max(out["UV"], mesh.uvSets.size());
        out["normal"] |= !mesh.normals.empty();
        out["tangent"] |= !mesh.tangents.empty();
        out["colour"] |= !mesh.colours.empty();
        out["bone"] |= !mesh.weights.empty() && node.skin >= 0;
        for (const auto& morph : mesh.morphs) morphs.insert(morph.name);
        for (const auto& run : mesh.runs)
            if (run.triangleCount > 0 && run.material >= 0) materials.insert(std::to_string(run.material));
    }
    out["morph"] = morphs.size();
    out["material"] = materials.size();
    out["picture"] = zl::usedImages(model).size();
    out["clip"] = model.clips.size();
    for (const auto& clip : model.clips)
        for (const auto& channel : clip->channels)
            if (channel.target != zl::Channel::Target::Weights || hasMorphs(model, channel.node))
                ++out["key"]; // weights of what has no morphs move nothing
    out["collider"] = model.colliders.size();
    return out;
}

std::set<std::string> lostInSilence(const Inventory& before, const Inventory& after,
                                    const std::vector<std::string>& notes) {
    std::set<std::string> lost;
    const auto says = [&](std::string_view text) {
        return std::ranges::any_of(notes,
                                   [&](const std::string& note) { return note.find(text) != note.npos; });
    };
    // What only slivers wore goes with them, and a part that is nothing but slivers with all that it has.
    const bool slivers = says("dropped") && !says("dropped 0 slivers and 0 doubles"),
               parts = says("nothing is left of");
    for (const auto& entry : before) {
        const auto& word = entry.first;
        const auto count = entry.second;
        if (parts || (slivers && (word == "material" || word == "picture"))) continue;
        const auto now = after.find(word);
        if (now != after.end() && now->second >= count) continue;
        if (count == 0) continue;
        const auto names = [&](const std::string& note) {
            return note.find(word) != std::string::npos ||
                   (word == "triangle" && (note.find("sliver") != std::string::npos));
        };
        if (std::ranges::none_of(notes, names)) lost.insert(word);
    }
    return lost;
}

} // namespace torture
