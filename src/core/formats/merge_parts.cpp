#include "core/formats/merge_parts.h"

#include <algorithm>

namespace zl::formats {

namespace {

template <class T, class Get>
void join(std::vector<T>& out, const std::vector<Mesh>& parts, const T& filler, const Get& get) {
    if (std::ranges::none_of(parts, [&](const Mesh& part) { return get(part) && !get(part)->empty(); }))
        return;
    for (const Mesh& part : parts) {
        const std::vector<T>* from = get(part);
        if (from && !from->empty())
            out.insert(out.end(), from->begin(), from->end());
        else
            out.resize(out.size() + part.positions.size(), filler);
    }
}

} // namespace

Mesh mergedParts(const std::vector<Mesh>& parts) {
    if (parts.size() == 1) return parts[0];
    Mesh out;
    std::size_t uvSets = 0;
    const Mesh* mostMorphs = nullptr;
    for (const Mesh& part : parts) {
        const auto first = static_cast<std::uint32_t>(out.positions.size());
        const auto firstTriangle = static_cast<std::uint32_t>(out.triangleCount());
        out.positions.insert(out.positions.end(), part.positions.begin(), part.positions.end());
        // An index outside its own part must stay outside, not land in a neighbour.
        for (const std::uint32_t i : part.indices)
            out.indices.push_back(i < part.positions.size() ? i + first : ~0u);
        for (MeshPart p : part.parts) {
            p.firstTriangle += firstTriangle;
            out.parts.push_back(p);
        }
        uvSets = std::max(uvSets, part.uvSets.size());
        if (!mostMorphs || part.morphs.size() > mostMorphs->morphs.size()) mostMorphs = &part;
    }
    join(out.normals, parts, glm::vec3(0, 1, 0), [](const Mesh& m) { return &m.normals; });
    join(out.tangents, parts, glm::vec4(1, 0, 0, 1), [](const Mesh& m) { return &m.tangents; });
    join(out.colours, parts, glm::vec4(1), [](const Mesh& m) { return &m.colours; });
    join(out.joints, parts, glm::u16vec4(0), [](const Mesh& m) { return &m.joints; });
    join(out.weights, parts, glm::vec4(0), [](const Mesh& m) { return &m.weights; });
    out.uvSets.resize(uvSets);
    for (std::size_t s = 0; s < uvSets; ++s)
        join(out.uvSets[s], parts, glm::vec2(0),
             [s](const Mesh& m) { return s < m.uvSets.size() ? &m.uvSets[s] : nullptr; });
    const std::size_t morphs = mostMorphs ? mostMorphs->morphs.size() : 0;
    for (std::size_t k = 0; k < morphs; ++k) {
        MorphTarget morph;
        morph.name = mostMorphs->morphs[k].name;
        join(morph.positions, parts, glm::vec3(0),
             [k](const Mesh& m) { return k < m.morphs.size() ? &m.morphs[k].positions : nullptr; });
        join(morph.normals, parts, glm::vec3(0),
             [k](const Mesh& m) { return k < m.morphs.size() ? &m.morphs[k].normals : nullptr; });
        out.morphs.push_back(std::move(morph));
    }
    return out;
}

} // namespace zl::formats
