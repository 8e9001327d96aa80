#include "core/steps/part_material.h"

#include "core/base/plain_number.h"
#include "core/base/unique_names.h"
#include "core/base/words.h"
#include "core/geometry/parts.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace zl::steps {

namespace {

MaterialSetting settingFrom(const std::string& text) {
    if (text == "true" || text == "false") return text == "true";
    if (const auto number = onlyNumber<double>(text); number && std::isfinite(*number)) return *number;
    return text;
}

/// The mesh with other materials, those that differ from before behind the others; corners stay.
Mesh dressed(const Mesh& mesh, const std::vector<Wear>& before, const std::vector<Wear>& wear) {
    std::vector<std::uint32_t> order(wear.size());
    std::iota(order.begin(), order.end(), 0u);
    std::stable_partition(order.begin(), order.end(), [&](std::uint32_t t) { return before[t] == wear[t]; });
    Mesh out = mesh;
    std::vector<Wear> worn(order.size());
    for (std::size_t i = 0; i < order.size(); ++i) {
        worn[i] = wear[order[i]];
        for (std::size_t k = 0; k < 3; ++k)
            out.indices[3 * i + k] = mesh.indices[3 * std::size_t(order[i]) + k];
    }
    dress(out, worn);
    return out;
}

} // namespace

Model PartMaterial::apply(const Model& in, StepContext& context) const {
    const auto chosen = context.chosen(in, faces);
    if (chosen.count() == 0) {
        context.note("nothing is chosen");
        return in;
    }
    Model out = in;
    const int image = picture.name.empty() ? -1 : context.imageIn(out, picture);
    UniqueNames names;
    for (const Material& material : in.materials) names.take(material.name);
    std::map<int, int> own; ///< by what was worn
    const auto ownFor = [&](int worn) {
        const auto [entry, fresh] = own.try_emplace(worn, int(out.materials.size()));
        if (!fresh) return entry->second;
        Material material = worn >= 0 ? in.materials[std::size_t(worn)] : Material{};
        material.name = names.made(!called.empty()         ? called
                                   : material.name.empty() ? std::string("part")
                                                           : material.name);
        if (image >= 0) {
            PictureUse use{.image = image};
            if (const PictureUse* lies = material.leading())
                use.uvSet = lies->uvSet, use.placement = lies->placement, use.sampler = lies->sampler;
            material.wear(PictureRole::Colour, use);
        }
        for (const Setting& setting : settings)
            if (!setting.name.empty()) material.settings[setting.name] = settingFrom(setting.value);
        out.materials.push_back(std::move(material));
        return entry->second;
    };
    for (std::size_t n = 0; n < in.nodes.size(); ++n) {
        if (chosen.countOf(n) == 0) continue;
        const Mesh& mesh = *in.meshes[std::size_t(in.nodes[n].mesh)];
        const auto before = triangleWear(mesh);
        auto wear = before;
        for (std::size_t t = 0; t < wear.size(); ++t)
            if (chosen.faces[n][t]) wear[t] = wearOf(ownFor(materialOf(wear[t])), surfaceOf(wear[t]));
        out.nodes[n].mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(dressed(mesh, before, wear)));
    }
    std::vector<std::string> made;
    for (const auto& [worn, material] : own) made.push_back(out.materials[std::size_t(material)].name);
    context.note(
        fmt::format("{} wear {}", showCount(long(chosen.count()), "triangle", "triangles"), showNames(made)));
    return geometry::withoutNodes(out, std::vector<char>(out.nodes.size(), 0));
}

} // namespace zl::steps
