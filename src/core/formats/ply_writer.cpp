#include "core/formats/format.h"
#include "core/formats/write_buffer.h"

#include "core/geometry/merge_meshes.h"
#include "core/geometry/world.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::formats {

std::vector<OutFile> writePly(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    std::vector<Mesh> objects; // as one shape; what only some have is filled in for the rest
    geometry::forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& toWorld) {
        objects.push_back(geometry::withPlacedUvs(geometry::transformed(mesh, worldToFile(options) * toWorld),
                                                  model.materials));
    });
    const Mesh mesh = geometry::merged(objects);
    const auto& colours = mesh.colours;
    const bool normals = !mesh.normals.empty(), uvs = !mesh.uvSets.empty(), coloured = !colours.empty();
    WriteBuffer out;
    out.text(fmt::format("ply\nformat binary_little_endian 1.0\ncomment lengths in {}\nelement vertex {}\n",
                         unitOfMetres(options.metresPerUnit).name, mesh.positions.size()));
    for (const char axis : {'x', 'y', 'z'}) out.text(fmt::format("property float {}\n", axis));
    if (normals)
        for (const char axis : {'x', 'y', 'z'}) out.text(fmt::format("property float n{}\n", axis));
    if (uvs) out.text("property float s\nproperty float t\n");
    if (coloured)
        out.text("property uchar red\nproperty uchar green\nproperty uchar blue\nproperty uchar alpha\n");
    out.text(fmt::format("element face {}\nproperty list uchar int vertex_indices\nend_header\n",
                         mesh.triangleCount()));
    for (std::size_t i = 0; i < mesh.positions.size(); ++i) {
        out.bytes(mesh.positions[i]);
        if (normals) out.bytes(mesh.normals[i]);
        if (uvs) out.bytes(glm::vec2(mesh.uvSets[0][i].x, 1 - mesh.uvSets[0][i].y));
        if (coloured)
            for (int k = 0; k < 4; ++k) out.bytes(texture::toByte(colours[i][k]));
    }
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        out.bytes(std::uint8_t(3));
        for (int k = 0; k < 3; ++k) out.bytes(static_cast<std::int32_t>(mesh.indices[3 * t + k]));
    }
    if (dropped) {
        if (!model.materials.empty()) dropped->emplace_back("materials and pictures");
        if (objectCount(model) > 1)
            dropped->emplace_back("objects, names and hierarchy (all become one shape)");
        if (!model.clips.empty() || !model.skins.empty()) dropped->emplace_back("bones and clips");
        dropped->emplace_back("the unit and the up axis (a PLY file does not say them)");
    }
    return {{options.name + ".ply", out.take()}};
}

} // namespace zl::formats
