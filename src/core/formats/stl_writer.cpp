#include "core/formats/format.h"
#include "core/formats/write_buffer.h"

#include "core/geometry/normals.h"
#include "core/geometry/world.h"

namespace zl::formats {

std::vector<OutFile> writeStl(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    const Mesh mesh = geometry::transformed(geometry::flattened(model), worldToFile(options));
    WriteBuffer out;
    out.reserve(84 + 50 * mesh.triangleCount());
    std::string head("binary STL, lengths in " + unitOfMetres(options.metresPerUnit).name);
    head.resize(80, ' ');
    out.text(head).bytes(static_cast<std::uint32_t>(mesh.triangleCount()));
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::vec3 n = geometry::faceNormal(mesh, t);
        const float length = glm::length(n);
        out.bytes(length > 0 ? n / length : glm::vec3(0));
        for (int k = 0; k < 3; ++k) out.bytes(mesh.positions[mesh.indices[3 * t + k]]);
        out.bytes(std::uint16_t(0));
    }
    if (dropped) {
        if (!mesh.uvSets.empty()) dropped->emplace_back("UVs");
        if (!model.materials.empty()) dropped->emplace_back("materials and pictures");
        if (!mesh.normals.empty()) dropped->emplace_back("smooth normals");
        if (objectCount(model) > 1)
            dropped->emplace_back("objects, names and hierarchy (all become one shape)");
        if (!model.clips.empty() || !model.skins.empty()) dropped->emplace_back("bones and clips");
        dropped->emplace_back("the unit and the up axis (an STL file does not say them)");
    }
    return {{options.name + ".stl", out.take()}};
}

} // namespace zl::formats
