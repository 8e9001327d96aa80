#include "standins/files/formats/readers.h"

#include "standins/world/collada_file.h"

#include <array>
#include <map>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

/// The reader gives every triangle corners of its own; those that are alike become one, as a game has them.
void shareCorners(world::Shape& shape) {
    std::map<std::array<float, 8>, std::uint32_t> made;
    world::Shape out;
    for (const std::uint32_t index : shape.indices) {
        const glm::vec3 p = shape.positions[index],
                        n = shape.normals.empty() ? glm::vec3(0) : shape.normals[index];
        const glm::vec2 uv = shape.uvs[index];
        const auto [at, isNew] =
            made.try_emplace({p.x, p.y, p.z, n.x, n.y, n.z, uv.x, uv.y}, std::uint32_t(made.size()));
        if (isNew) {
            out.positions.push_back(p), out.uvs.push_back(uv);
            if (!shape.normals.empty()) out.normals.push_back(n);
        }
        out.indices.push_back(at->second);
    }
    shape = std::move(out);
}

} // namespace

Read readCollada(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string text = wholeOf(folder / path);
    world::ColladaFile file = world::readColladaFile(text);
    out.problem = file.problem;
    if (!file.problem.empty()) return out;
    out.partly = text.find("<polylist") != std::string::npos || text.find("<polygons") != std::string::npos;
    out.metres = file.unitMetres;
    out.up = file.upAxis.starts_with("Z") ? "Z" : "Y";
    for (world::ColladaPart& part : file.parts) {
        out.nodes.push_back(part.name);
        Read::Object object{part.name, "", part.worn.empty() ? "" : part.worn[0].material,
                            std::move(part.shape)};
        object.colour = part.colour;
        shareCorners(object.shape);
        for (glm::vec3& p : object.shape.positions) p = glm::vec3(part.place * glm::vec4(p, 1));
        for (glm::vec3& n : object.shape.normals) n = glm::mat3(part.place) * n;
        if (!part.picture.empty())
            object.picture = beside(path, part.picture), out.names.insert(object.picture);
        for (const auto& worn : part.worn) addMaterial(out, worn.material);
        out.objects.push_back(std::move(object));
    }
    out.nodes.insert(out.nodes.end(), file.empty.begin(), file.empty.end());
    return out;
}

} // namespace zl::standins::files
