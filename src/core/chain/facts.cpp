#include "core/chain/facts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::chain {

using formats::Aspect;

std::string_view stateId(State state) {
    constexpr std::string_view ids[] = {"none", "kept", "changed", "lost", "put-back"};
    return ids[static_cast<int>(state)];
}

namespace {

/// Sums over one mesh's triangles that do not depend on the order of parts.
void addMesh(Facts& facts, const Mesh& mesh, const glm::dmat4& toWorld,
             const std::vector<Material>& materials, double& area) {
    const Mesh placed = geometry::withPlacedUvs(mesh, materials);
    const glm::dmat3 linear(toWorld);
    const bool mirrors = glm::determinant(linear) < 0;
    const glm::dmat3 normalMatrix = geometry::normalMatrixOf(linear);
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const std::uint32_t* c = &mesh.indices[3 * t];
        const glm::dvec3 a = linear * glm::dvec3(mesh.positions[c[0]]),
                         b = linear * glm::dvec3(mesh.positions[c[1]]),
                         d = linear * glm::dvec3(mesh.positions[c[2]]);
        const glm::dvec3 face = glm::cross(b - a, d - a) * (mirrors ? -1.0 : 1.0);
        const double twice = glm::length(face);
        if (!(twice > 0)) continue;
        area += twice;
        if (!mesh.normals.empty())
            for (int k = 0; k < 3; ++k) {
                const glm::dvec3 n = normalMatrix * glm::dvec3(mesh.normals[c[k]]);
                const double length = glm::length(n);
                if (length > 0) facts.normalAgreement += glm::dot(n / length, face) / 3;
            }
        if (!mesh.colours.empty())
            for (int k = 0; k < 3; ++k) facts.colourMean += glm::dvec4(mesh.colours[c[k]]) * (twice / 3);
        if (!placed.uvSets.empty()) {
            const glm::dvec2 u(placed.uvSets[0][c[0]]), v(placed.uvSets[0][c[1]]), w(placed.uvSets[0][c[2]]);
            facts.uvArea += std::abs((v.x - u.x) * (w.y - u.y) - (v.y - u.y) * (w.x - u.x));
            facts.uvSum += (u.x + v.x + w.x + 2 * (u.y + v.y + w.y)) * twice;
        }
    }
}

} // namespace

Facts factsOf(const Model& model) {
    Facts facts;
    double area = 0;
    std::vector<std::string> path(model.nodes.size());
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        // Only the last few groups: deep trees would make the texts grow with the square of their depth.
        path[n] = node.parent >= 0 ? path[node.parent] + "/" + node.name : node.name;
        if (path[n].size() > 400) path[n] = path[n].substr(path[n].size() - 400);
    }
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        facts.bounds.add(geometry::meshBounds(mesh, toWorld));
        facts.triangles += mesh.triangleCount();
        ++facts.objects;
        facts.names.push_back(model.nodes[node].name);
        facts.paths.push_back(path[node]);
        for (const MeshPart& part : mesh.parts) {
            if (part.triangleCount == 0 || part.material < 0) continue;
            const Material& material = model.materials[part.material];
            facts.materials[material.name] += part.triangleCount;
            if (material.baseColourImage >= 0) {
                const Image& image = *model.images[material.baseColourImage];
                facts.pictures[material.name] = fmt::format("{}×{}", image.width, image.height);
            }
        }
        facts.uvs |= !mesh.uvSets.empty(), facts.normals |= !mesh.normals.empty(),
            facts.colours |= !mesh.colours.empty();
        for (const MorphTarget& morph : mesh.morphs) facts.morphs.push_back(morph.name);
        addMesh(facts, mesh, toWorld, model.materials, area);
    });
    if (area > 0) {
        facts.normalAgreement /= area;
        facts.uvSum /= area;
        facts.colourMean /= area;
    }
    for (const int m : usedMaterials(model))
        if (m >= 0 && model.materials[m].baseColourImage >= 0)
            facts.placements += hasUvPlacement(model.materials[m]);
    for (const Skin& skin : model.skins)
        for (const int joint : skin.joints)
            if (joint >= 0) facts.bones.push_back(model.nodes[joint].name);
    for (const auto& clip : model.clips) facts.clips.push_back(clip->name);
    for (auto* list : {&facts.names, &facts.paths, &facts.bones, &facts.clips, &facts.morphs})
        std::ranges::sort(*list);
    return facts;
}

namespace {

bool near(double a, double b, double share) {
    return std::abs(a - b) <= share * std::max({std::abs(a), std::abs(b), 1e-9});
}

Verdict listVerdict(const std::vector<std::string>& before, const std::vector<std::string>& after,
                    std::string_view singular, std::string_view plural) {
    if (before.empty()) return {};
    if (after == before) return {State::Kept, {}};
    const auto count = [&](const auto& list) {
        return showCount(static_cast<long long>(list.size()), singular, plural);
    };
    if (after.empty()) return {State::Lost, count(before)};
    if (after.size() != before.size())
        return {State::Changed, fmt::format("{} of {}", after.size(), count(before))};
    std::size_t at = 0;
    while (after[at] == before[at]) ++at;
    return {State::Changed, fmt::format("\"{}\" is \"{}\"", before[at], after[at])};
}

Verdict scaleVerdict(const Facts& before, const Facts& after) {
    if (before.bounds.empty()) return {};
    if (after.bounds.empty()) return {State::Lost, "nothing came back"};
    const double factor =
        glm::length(after.bounds.size()) / std::max(glm::length(before.bounds.size()), 1e-12);
    if (near(factor, 1, 1e-4)) return {State::Kept, {}};
    return {State::Lost, fmt::format("{} times as large", showMeasure(factor))};
}

Verdict upVerdict(const Facts& before, const Facts& after) {
    if (before.bounds.empty() || after.bounds.empty()) return {};
    // Compared as shapes: the size of each side as share of the whole.
    const auto share = [](const Facts& f) {
        return f.bounds.size() / std::max(glm::length(f.bounds.size()), 1e-12);
    };
    const glm::dvec3 a = share(before), b = share(after);
    if (glm::length(a - b) < 1e-3) {
        // A half turn leaves the sizes; it shows in where the box lies, if the origin is not in its middle.
        const double factor =
            glm::length(after.bounds.size()) / std::max(glm::length(before.bounds.size()), 1e-12);
        const double away = glm::length(after.bounds.centre() - before.bounds.centre() * factor);
        if (away <= 1e-3 * glm::length(after.bounds.size())) return {State::Kept, {}};
        return {State::Lost, "turned or moved"};
    }
    return {State::Lost, "lies on its side"};
}

} // namespace

Verdicts compared(const Facts& before, const Facts& after) {
    Verdicts out;
    out[Aspect::Scale] = scaleVerdict(before, after);
    out[Aspect::Up] = upVerdict(before, after);
    if (before.objects > 1)
        out[Aspect::Objects] = after.objects == before.objects
                                   ? Verdict{State::Kept, {}}
                                   : Verdict{after.objects <= 1 ? State::Lost : State::Changed,
                                             fmt::format("{} of {}", after.objects, before.objects)};
    else
        out[Aspect::Objects] = after.objects == before.objects
                                   ? Verdict{State::Kept, {}}
                                   : Verdict{State::Changed, fmt::format("{} of 1", after.objects)};
    out[Aspect::Names] = listVerdict(before.names, after.names, "name", "names");
    if (out[Aspect::Names].state == State::Changed && after.names.size() <= 1 && before.names.size() > 1)
        out[Aspect::Names].state = State::Lost;
    const bool grouped = std::ranges::any_of(
        before.paths, [](const auto& path) { return path.find('/') != std::string::npos; });
    if (grouped) {
        const bool still = std::ranges::any_of(
            after.paths, [](const auto& path) { return path.find('/') != std::string::npos; });
        out[Aspect::Hierarchy] = after.paths == before.paths ? Verdict{State::Kept, {}}
                                 : still                     ? Verdict{State::Changed, "other groups"}
                                                             : Verdict{State::Lost, "no groups"};
    } else {
        out[Aspect::Hierarchy] = {};
    }
    if (before.materials.empty())
        out[Aspect::Materials] = {};
    else if (after.materials == before.materials)
        out[Aspect::Materials] = {State::Kept, {}};
    else
        out[Aspect::Materials] = {
            after.materials.size() < before.materials.size() && after.materials.size() <= 1 ? State::Lost
                                                                                            : State::Changed,
            fmt::format("{} of {}", after.materials.size(), before.materials.size())};
    if (before.materials.size() == 1 && after.materials.size() == 1 &&
        out[Aspect::Materials].state == State::Lost)
        out[Aspect::Materials].state = State::Changed;
    if (!before.pictures.empty()) {
        std::size_t same = 0;
        for (const auto& [material, size] : before.pictures) {
            const auto found = after.pictures.find(material);
            same += found != after.pictures.end() && found->second == size;
        }
        out[Aspect::Pictures] = same == before.pictures.size()
                                    ? Verdict{State::Kept, {}}
                                    : Verdict{same == 0 ? State::Lost : State::Changed,
                                              fmt::format("{} of {}", same, before.pictures.size())};
    } else {
        out[Aspect::Pictures] = {};
    }
    out[Aspect::Uvs] =
        !before.uvs  ? Verdict{}
        : !after.uvs ? Verdict{State::Lost, {}}
        : near(before.uvArea, after.uvArea, 1e-3) && std::abs(before.uvSum - after.uvSum) < 1e-3
            ? Verdict{State::Kept, {}}
            : Verdict{State::Changed, "others"};
    out[Aspect::UvPlacement] = before.placements == 0 ? Verdict{}
                               : after.placements == before.placements
                                   ? Verdict{State::Kept, {}}
                                   : Verdict{State::Lost, "in the UVs now"};
    out[Aspect::Normals] = !before.normals  ? Verdict{}
                           : !after.normals ? Verdict{State::Lost, {}}
                           : std::abs(before.normalAgreement - after.normalAgreement) < 2e-3
                               ? Verdict{State::Kept, {}}
                               : Verdict{State::Changed, "others"};
    out[Aspect::Colours] = !before.colours  ? Verdict{}
                           : !after.colours ? Verdict{State::Lost, {}}
                           : glm::length(before.colourMean - after.colourMean) < 0.01
                               ? Verdict{State::Kept, {}}
                               : Verdict{State::Changed, "others"};
    out[Aspect::Bones] = listVerdict(before.bones, after.bones, "bone", "bones");
    out[Aspect::Clips] = listVerdict(before.clips, after.clips, "clip", "clips");
    out[Aspect::Morphs] = listVerdict(before.morphs, after.morphs, "morph", "morphs");
    return out;
}

} // namespace zl::chain
