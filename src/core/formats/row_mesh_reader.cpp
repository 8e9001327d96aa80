// The geometry of a row package (docs/formats/row-package.md), with the materials and pictures it refers to.
#include "core/formats/format.h"
#include "core/formats/row_material.h"
#include "core/formats/row_mesh.h"

#include <cstring>

namespace zl::formats {

Model readRowMesh(files::SourceFile& source, const Progress& progress) {
    const FileBytes file = source.bytes();
    const RowMeshHead head = rowMeshHead(file.text(), source.where());
    progress.report(0.2, "reading");
    Model model;
    model.name = source.stem();
    model.frame = {unitNamed("m"), head.up, false, false};
    model.placement = model.frame.toMetres();
    Mesh mesh;
    mesh.name = model.name;
    const char* at = file.text().data() + head.arraysAt;
    const auto take = [&at](auto& array, std::size_t count) {
        array.resize(count);
        if (count > 0) std::memcpy(array.data(), at, count * sizeof array[0]);
        at += count * sizeof array[0];
    };
    take(mesh.positions, head.corners);
    take(mesh.normals, head.corners);
    take(mesh.uvSets.emplace_back(), head.corners);
    take(mesh.indices, std::size_t(head.triangles) * 3);
    RowMaterials materials(source, model);
    for (const RowGroup& group : head.groups)
        mesh.runs.push_back(
            {group.firstTriangle, group.triangleCount,
             materials.use(group.material.number ? files::textOf(group.material) : "", group.name)});
    model.nodes.push_back({mesh.name, -1, glm::dmat4(1.0), 0});
    model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    return model;
}

} // namespace zl::formats
