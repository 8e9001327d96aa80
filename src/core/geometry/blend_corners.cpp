#include "core/geometry/blend_corners.h"

#include <algorithm>
#include <array>

namespace zl::geometry {

namespace {

glm::vec3 unit(const glm::vec3& v, const glm::vec3& otherwise) {
    const float length = glm::length(v);
    return length > 1e-12f ? v / length : otherwise;
}

/// The heaviest four bones of two corners, their weights together 1 (or 0 where neither hangs on any).
void blendBones(Mesh& mesh, std::uint32_t a, std::uint32_t b, float share) {
    struct Hold {
        std::uint16_t bone;
        float weight;
    };
    std::array<Hold, 8> holds{};
    std::size_t count = 0;
    const auto take = [&](std::uint32_t v, float part) {
        for (int k = 0; k < 4; ++k) {
            const float weight = mesh.weights[v][k] * part;
            if (!(weight > 0)) continue;
            const auto known = std::find_if(holds.begin(), holds.begin() + count,
                                            [&](const Hold& hold) { return hold.bone == mesh.joints[v][k]; });
            if (known != holds.begin() + count)
                known->weight += weight;
            else
                holds[count++] = {mesh.joints[v][k], weight};
        }
    };
    take(a, 1 - share), take(b, share);
    std::stable_sort(holds.begin(), holds.begin() + count,
                     [](const Hold& x, const Hold& y) { return x.weight > y.weight; });
    glm::u16vec4 bones(0);
    glm::vec4 weights(0);
    for (std::size_t k = 0; k < std::min<std::size_t>(count, 4); ++k)
        bones[int(k)] = holds[k].bone, weights[int(k)] = holds[k].weight;
    const float sum = weights.x + weights.y + weights.z + weights.w;
    mesh.joints.push_back(bones);
    mesh.weights.push_back(sum > 0 ? weights / sum : weights);
}

} // namespace

std::uint32_t addCornerBetween(Mesh& mesh, std::uint32_t a, std::uint32_t b, float share,
                               const glm::vec3& position) {
    const auto mixed = [&](auto& values) {
        if (!values.empty()) values.push_back(glm::mix(values[a], values[b], share));
    };
    mesh.positions.push_back(position);
    mixed(mesh.normals);
    if (!mesh.normals.empty()) mesh.normals.back() = unit(mesh.normals.back(), mesh.normals[a]);
    mixed(mesh.tangents);
    if (!mesh.tangents.empty())
        mesh.tangents.back() = glm::vec4(unit(mesh.tangents.back(), mesh.tangents[a]), mesh.tangents[a].w);
    for (auto& set : mesh.uvSets) mixed(set);
    mixed(mesh.colours);
    if (!mesh.weights.empty() && !mesh.joints.empty()) blendBones(mesh, a, b, share);
    for (MorphTarget& morph : mesh.morphs) mixed(morph.positions), mixed(morph.normals);
    return static_cast<std::uint32_t>(mesh.positions.size()) - 1;
}

} // namespace zl::geometry
