// The level compiler's text (docs/formats/level-text.md), by the level stand-in's reader.
#include "standins/files/formats/readers.h"
#include "standins/level/level_file.h"

namespace fs = std::filesystem;

namespace zl::standins::files {

Read readLevel(const fs::path& folder, const std::string& path) {
    Read out{path};
    level::LevelFile file = level::readLevelFile(wholeOf(folder / path));
    out.problem = file.problem;
    if (!file.problem.empty()) return out;
    out.metres = file.unit, out.up = "Z";
    for (const auto& material : file.materials) {
        addMaterial(out, material.name);
        if (!material.picture.empty()) out.names.insert(beside(path, material.picture));
    }
    for (level::LevelObject& object : file.objects) {
        for (glm::vec3& p : object.shape.positions) p /= file.unit * level::importerMultiplies;
        world::addMissingNormals(object.shape);
        object.shape.uvs.resize(object.shape.positions.size());
        addObject(out, object.name, std::move(object.shape),
                  object.materials.empty() ? "" : object.materials[0]);
        const auto worn =
            std::ranges::find(file.materials, out.objects.back().material, &level::LevelMaterial::name);
        if (worn == file.materials.end()) continue;
        out.objects.back().colour = worn->colour;
        if (!worn->picture.empty()) out.objects.back().picture = beside(path, worn->picture);
    }
    return out;
}

} // namespace zl::standins::files
