#include "core/selection/cut_out.h"

#include "core/base/unique_names.h"
#include "core/geometry/extract.h"
#include "core/geometry/moving_nodes.h"
#include "core/geometry/normals.h"
#include "core/geometry/clip_keys.h"
#include "core/model/node_path.h"

#include <algorithm>
#include <optional>
#include <utility>

namespace zl::selection {

namespace {

/// The mesh with normals, for sides that are shaded each by itself would show a seam. Nothing where it has
/// hard edges: those split corners, and another size might be split otherwise.
std::optional<Mesh> withSharedNormals(const Mesh& mesh) {
    const Mesh shaded = geometry::withNormals(mesh);
    Mesh out = mesh;
    out.normals.assign(mesh.vertexCount(), glm::vec3(0));
    std::vector<char> has(mesh.vertexCount(), 0);
    for (std::size_t i = 0; i < mesh.indices.size(); ++i) {
        const std::uint32_t corner = mesh.indices[i];
        const glm::vec3& normal = shaded.normals[shaded.indices[i]];
        if (std::exchange(has[corner], 1) && out.normals[corner] != normal) return std::nullopt;
        out.normals[corner] = normal;
    }
    return out;
}

int addMesh(Model& model, Mesh mesh) {
    model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    return int(model.meshes.size()) - 1;
}

} // namespace

Model cutOut(const Model& model, const Chosen& chosen, const CutOut& how, std::vector<int>* made) {
    Model out = model;
    const auto moving = geometry::movingNodes(model);
    const auto paths = nodePaths(model);
    UniqueNames names;
    for (const Node& node : model.nodes) names.take(node.name);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (chosen.countOf(n) == 0) continue;
        const auto& whole = model.meshes[std::size_t(model.nodes[n].mesh)];
        Chosen marks{std::vector<std::vector<char>>(n + 1)};
        marks.faces[n] = withBorder(*whole, chosen.faces[n], how.border);
        if (marks.countOf(n) == 0) continue;
        const std::string name = names.made(how.name.empty() ? model.nodes[n].name + " part" : how.name);
        if (marks.countOf(n) == whole->triangleCount() && !how.stays) {
            if (!how.name.empty()) out.nodes[n].name = name;
            if (made) made->push_back(int(n));
            continue;
        }
        auto cut = std::make_shared<Cut>();
        cut->whole = whole;
        cut->object = paths[n];
        cut->part.triangles = marks.trianglesOf(n, true);
        cut->rest.triangles = marks.trianglesOf(n, false);
        const auto shaded = whole->normals.empty() ? withSharedNormals(*whole) : std::nullopt;
        const Mesh& from = shaded ? *shaded : *whole;
        Mesh part = geometry::inOwnOrder(from, cut->part.triangles);
        cut->part.topology = topologyHash(part);
        part.name = name;
        if (!how.stays) {
            Mesh rest = geometry::inOwnOrder(from, cut->rest.triangles);
            cut->rest.topology = topologyHash(rest);
            rest.cut = {cut, false};
            part.cut = {cut, true};
            out.nodes[n].mesh = addMesh(out, std::move(rest));
        }
        Node node{name, model.nodes[n].parent, model.nodes[n].local, addMesh(out, std::move(part)),
                  model.nodes[n].skin};
        if (moving[n]) node.parent = int(n), node.local = glm::dmat4(1.0);
        out.nodes.push_back(std::move(node));
        const int added = int(out.nodes.size()) - 1;
        geometry::copyWeightKeys(out, int(n), added);
        if (made) made->push_back(added);
    }
    return out;
}

} // namespace zl::selection
