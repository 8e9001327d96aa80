#include "core/model/used_only.h"

#include "core/base/unique_names.h"

#include <algorithm>
#include <map>

namespace zl {

Model withUsedMaterialsOnly(Model model) {
    std::map<int, int> newMaterial, newImage;
    std::vector<Material> materials;
    std::vector<std::shared_ptr<const Image>> images;
    for (const int image : usedImages(model)) newImage.emplace(image, 0);
    for (auto& [old, index] : newImage) {
        index = int(images.size());
        images.push_back(model.images[old]);
    }
    for (const int m : usedMaterials(model)) {
        if (m < 0) continue;
        newMaterial[m] = int(materials.size());
        Material& material = materials.emplace_back(model.materials[m]);
        for (PictureUse& use : material.pictures)
            if (use) use.image = newImage.at(use.image);
    }
    const auto renamed = [&](MaterialRun run) {
        const auto kept = newMaterial.find(run.material); // a run of no triangles names any
        run.material = kept == newMaterial.end() ? -1 : kept->second;
        return run;
    };
    for (auto& mesh : model.meshes) {
        if (std::ranges::all_of(mesh->runs,
                                [&](const auto& run) { return renamed(run).material == run.material; }))
            continue;
        auto copy = std::make_shared<Mesh>(*mesh);
        std::ranges::transform(copy->runs, copy->runs.begin(), renamed);
        mesh = std::move(copy);
    }
    model.materials = std::move(materials);
    model.images = std::move(images);
    return model;
}

Model withMaterialNamesOnce(Model model) {
    UniqueNames names;
    for (Material& material : model.materials) material.name = names.made(material.name);
    return model;
}

} // namespace zl
