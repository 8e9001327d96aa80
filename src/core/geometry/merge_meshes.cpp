#include "core/geometry/merge_meshes.h"

#include "core/geometry/normals.h"

#include <algorithm>
#include <map>

namespace zl::geometry {

namespace {

template <class T, class Get>
void join(std::vector<T>& out, const std::vector<const Mesh*>& parts, const T& filler, const Get& get) {
    if (std::ranges::none_of(parts, [&](const Mesh* part) { return get(*part) && !get(*part)->empty(); }))
        return;
    for (const Mesh* part : parts) {
        const std::vector<T>* from = get(*part);
        if (from && !from->empty())
            out.insert(out.end(), from->begin(), from->end());
        else
            out.resize(out.size() + part->positions.size(), filler);
    }
}

/// A morph target's name and how often it came before in the same mesh, for one mesh may use a name twice.
using MorphKey = std::pair<std::string, int>;

std::vector<MorphKey> morphKeys(const Mesh& mesh) {
    std::map<std::string, int> seen;
    std::vector<MorphKey> keys;
    for (const MorphTarget& morph : mesh.morphs) keys.emplace_back(morph.name, seen[morph.name]++);
    return keys;
}

void joinMorphs(Mesh& out, const std::vector<const Mesh*>& parts) {
    std::vector<MorphKey> all; // in order of appearance
    std::map<MorphKey, std::vector<const MorphTarget*>> targets;
    for (std::size_t p = 0; p < parts.size(); ++p) {
        const auto keys = morphKeys(*parts[p]);
        for (std::size_t k = 0; k < keys.size(); ++k) {
            const auto [entry, fresh] = targets.try_emplace(keys[k], parts.size(), nullptr);
            if (fresh) all.push_back(keys[k]);
            entry->second[p] = &parts[p]->morphs[k];
        }
    }
    for (const MorphKey& key : all) {
        MorphTarget& morph = out.morphs.emplace_back();
        morph.name = key.first;
        const auto& from = targets[key];
        const bool normals = std::ranges::any_of(
            from, [](const MorphTarget* target) { return target && !target->normals.empty(); });
        const auto take = [&](std::vector<glm::vec3>& to, const auto MorphTarget::*list) {
            std::size_t end = 0; // behind this part's corners; those of parts without the target do not move
            for (std::size_t p = 0; p < parts.size(); ++p) {
                end += parts[p]->positions.size();
                if (from[p]) to.insert(to.end(), (from[p]->*list).begin(), (from[p]->*list).end());
                to.resize(end, glm::vec3(0));
            }
        };
        take(morph.positions, &MorphTarget::positions);
        if (normals) take(morph.normals, &MorphTarget::normals);
    }
}

} // namespace

Mesh merged(const std::vector<Mesh>& meshes, std::vector<std::string>* lost) {
    if (meshes.empty()) return {};
    if (meshes.size() == 1) return meshes[0];
    const bool anyNormals = std::ranges::any_of(meshes, [](const Mesh& m) { return !m.normals.empty(); });
    std::vector<Mesh> made; // those that normals had to be worked out for
    made.reserve(meshes.size());
    std::vector<const Mesh*> parts;
    for (const Mesh& mesh : meshes) {
        const bool needs = anyNormals && mesh.normals.empty() && !mesh.indices.empty();
        parts.push_back(needs ? &made.emplace_back(withNormals(mesh)) : &mesh);
    }
    Mesh out;
    std::size_t uvSets = 0;
    bool allTangents = true;
    for (const Mesh* part : parts) {
        const auto first = static_cast<std::uint32_t>(out.positions.size());
        out.positions.insert(out.positions.end(), part->positions.begin(), part->positions.end());
        // An index outside its own part must stay outside, not land in a neighbour.
        for (const std::uint32_t i : part->indices)
            out.indices.push_back(i < part->positions.size() ? i + first : ~0u);
        dressEnd(out, *part);
        uvSets = std::max(uvSets, part->uvSets.size());
        if (part->positions.empty()) continue;
        allTangents &= !part->tangents.empty();
    }
    const bool anyTangents = std::ranges::any_of(meshes, [](const Mesh& m) { return !m.tangents.empty(); });
    join(out.normals, parts, glm::vec3(0, 1, 0), [](const Mesh& m) { return &m.normals; });
    if (allTangents)
        join(out.tangents, parts, glm::vec4(1, 0, 0, 1), [](const Mesh& m) { return &m.tangents; });
    if (anyTangents && !allTangents && lost) lost->emplace_back("tangents, which not all parts have");
    join(out.colours, parts, glm::vec4(1), [](const Mesh& m) { return &m.colours; });
    join(out.joints, parts, glm::u16vec4(0), [](const Mesh& m) { return &m.joints; });
    join(out.weights, parts, glm::vec4(0), [](const Mesh& m) { return &m.weights; });
    out.uvSets.resize(uvSets);
    for (std::size_t s = 0; s < uvSets; ++s)
        join(out.uvSets[s], parts, glm::vec2(0),
             [s](const Mesh& m) { return s < m.uvSets.size() ? &m.uvSets[s] : nullptr; });
    joinMorphs(out, parts);
    return out;
}

} // namespace zl::geometry
