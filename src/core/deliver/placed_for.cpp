#include "core/deliver/placed_for.h"

#include "core/geometry/bake.h"
#include "core/geometry/normals.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

formats::WriteOptions writeOptionsFor(const platform::Sheet& sheet, const std::string& name) {
    return {name, sheet.fileMetresPerUnit(), sheet.up, sheet.front};
}

Model bakedFor(const platform::Sheet& sheet, const Model& model) {
    Model turned = model;
    turned.placement = formats::worldToFile(writeOptionsFor(sheet, {})) * model.placement;
    return geometry::baked(turned).model;
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
