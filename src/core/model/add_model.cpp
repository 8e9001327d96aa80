#include "core/model/add_model.h"

#include <algorithm>

namespace zl {

int addModel(Model& model, const Model& other, const std::string& name, int parent, const glm::dmat4& place) {
    const int firstNode = int(model.nodes.size()) + 1, firstMesh = int(model.meshes.size()),
              firstMaterial = int(model.materials.size()), firstSkin = int(model.skins.size());
    std::vector<int> images;
    for (const auto& image : other.images) {
        const auto known = std::ranges::find(model.images, image);
        images.push_back(int(known - model.images.begin()));
        if (known == model.images.end()) model.images.push_back(image);
    }
    for (Material material : other.materials) {
        for (PictureUse& use : material.pictures)
            if (use) use.image = images[std::size_t(use.image)];
        model.materials.push_back(std::move(material));
    }
    for (const auto& mesh : other.meshes) {
        Mesh own = *mesh;
        for (MaterialRun& run : own.runs)
            if (run.material >= 0) run.material += firstMaterial;
        bringSurfaces(own, other, model);
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(own)));
    }
    const glm::dmat4 outer = parent < 0 ? glm::inverse(model.placement) * place : place;
    model.nodes.push_back({name, parent, outer * other.placement});
    for (Node node : other.nodes) {
        node.name = name + "/" + node.name;
        node.key = 0; // a set-up means nodes of its own model
        node.parent = node.parent < 0 ? firstNode - 1 : node.parent + firstNode;
        if (node.mesh >= 0) node.mesh += firstMesh;
        if (node.skin >= 0) node.skin += firstSkin;
        model.nodes.push_back(std::move(node));
    }
    for (Skin skin : other.skins) {
        for (int& joint : skin.joints) joint += firstNode;
        if (skin.root >= 0) skin.root += firstNode;
        model.skins.push_back(std::move(skin));
    }
    return firstNode - 1;
}

} // namespace zl
