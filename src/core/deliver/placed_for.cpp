#include "core/deliver/placed_for.h"

#include "core/geometry/bake.h"
#include "core/geometry/normals.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl::deliver {

formats::WriteOptions writeOptionsFor(const platform::Sheet& sheet, const std::string& name) {
    return {name, sheet.fileMetresPerUnit(), sheet.up, sheet.front};
}

Model bakedFor(const platform::Sheet& sheet, const Model& model) {
    Model turned = model;
    turned.placement = formats::worldToFile(writeOptionsFor(sheet, {})) * model.placement;
    return geometry::baked(turned).model;
}

Model withPicturesPlaced(Model model) {
    std::vector<Material> placed = model.materials;
    for (std::size_t m = 0; m < placed.size(); ++m) {
        const PictureUse* first = placed[m].leading();
        const bool alike = std::ranges::all_of(placed[m].pictures, [&](const PictureUse& use) {
            return !use || (use.placement == first->placement && use.uvSet == first->uvSet);
        });
        // What goes into the corners is taken from the pictures, and the other way about.
        for (PictureUse& use : (alike ? model.materials : placed)[m].pictures)
            use.placement = {}, use.uvSet = 0;
    }
    for (auto& mesh : model.meshes)
        mesh = std::make_shared<const Mesh>(geometry::withPlacedUvs(*mesh, placed));
    return model;
}

Model withoutPictures(Model model) {
    for (auto& mesh : model.meshes)
        mesh = std::make_shared<const Mesh>(geometry::withPlacedUvs(*mesh, model.materials));
    for (Material& material : model.materials) material.pictures = {};
    model.images.clear();
    return model;
}

std::vector<OutFile> bakedCollada(const platform::Sheet& sheet, const Model& model, const std::string& name) {
    const formats::WriteOptions options{name, sheet.fileMetresPerUnit(), sheet.up};
    Model ready = withNormalsAdded(bakedFor(sheet, model));
    // The corners are in the file's numbers already: take the writer's own conversion off again.
    ready.placement = glm::inverse(formats::worldToFile(options));
    return formats::writeCollada(ready, options, nullptr);
}

nlohmann::json namesFrom(const std::vector<OutFile>& files, std::size_t first) {
    auto names = nlohmann::json::array();
    for (std::size_t i = first; i < files.size(); ++i) names.push_back(files[i].name);
    return names;
}

Model withNormalsAdded(const Model& model, double creaseRadians) {
    Model out = model;
    for (auto& mesh : out.meshes)
        if (mesh->normals.empty() && !mesh->indices.empty())
            mesh = std::make_shared<const Mesh>(geometry::withNormals(*mesh, creaseRadians));
    return out;
}

} // namespace zl::deliver
