#include "core/package/put_geometry.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/words.h"
#include "core/formats/row_mesh.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl::package {

namespace {

/// What the material resource of a group calls itself; empty when it is not to be had.
std::string materialNameOf(const formats::RowGroup& group, const Package& package) {
    const Resource* resource = package.resource(group.material);
    if (!resource) return {};
    const nlohmann::json json = parsedJson(*resource->bytes);
    const auto name = json.is_object() ? json.find("name") : json.end();
    return json.is_object() && name != json.end() && name->is_string() ? name->get<std::string>() : "";
}

} // namespace

std::string withGeometryOf(const Model& model, const std::string& old, const Package& package,
                           const std::string& where) {
    formats::RowMeshHead head = formats::rowMeshHead(old, where);
    const SourceFrame frame{unitNamed("m"), head.up, false, false};
    Mesh mesh = geometry::transformed(geometry::flattened(model), glm::inverse(frame.toMetres()));
    if (mesh.normals.empty()) mesh = geometry::withNormals(mesh);
    std::vector<std::string> names;
    for (const formats::RowGroup& group : head.groups) names.push_back(materialNameOf(group, package));
    std::vector<std::vector<std::uint32_t>> triangles(head.groups.size());
    const auto materials = triangleMaterials(mesh);
    std::vector<std::string> known;
    std::ranges::transform(head.groups, std::back_inserter(known), &formats::RowGroup::name);
    std::vector<int> groupOf(model.materials.size() + 1, -1); ///< -1 is the first
    for (std::size_t t = 0; t < materials.size(); ++t) {
        int& group = groupOf[std::size_t(materials[t] + 1)];
        if (group < 0) {
            const std::string name =
                materials[t] < 0 ? std::string() : model.materials[std::size_t(materials[t])].name;
            for (std::size_t g = 0; g < head.groups.size() && group < 0; ++g)
                if (name == head.groups[g].name || (!name.empty() && name == names[g])) group = int(g);
            if (group < 0 && head.groups.size() == 1) group = 0;
            if (group < 0)
                throw Refused(fmt::format("no group of the geometry has the material \"{}\"", name), where,
                              "Give the part one of its materials: " + inARow(known) + ".");
        }
        triangles[std::size_t(group)].push_back(std::uint32_t(t));
    }
    std::vector<std::uint32_t> indices;
    for (std::size_t g = 0; g < head.groups.size(); ++g) {
        head.groups[g].firstTriangle = std::uint32_t(indices.size() / 3);
        head.groups[g].triangleCount = std::uint32_t(triangles[g].size());
        for (const std::uint32_t t : triangles[g])
            indices.insert(indices.end(), mesh.indices.begin() + std::ptrdiff_t(3) * t,
                           mesh.indices.begin() + std::ptrdiff_t(3) * t + 3);
    }
    mesh.indices = std::move(indices);
    return formats::rowMeshBytes(mesh, head.up, head.groups);
}

} // namespace zl::package
