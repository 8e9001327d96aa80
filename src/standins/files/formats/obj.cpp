#include "standins/files/formats/readers.h"

#include "standins/world/obj_file.h"

#include <fstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

Read readObj(const fs::path& folder, const std::string& path) {
    Read out{path};
    world::ObjFile file = world::readObjFile(folder / path);
    out.problem = file.problem;
    if (!file.problem.empty()) return out;
    Read::Object object{fs::path(path).stem().string(), "", file.materialName, std::move(file.shape)};
    // This reader melts a file's objects into one; their names are read for themselves.
    std::ifstream in(folder / path);
    for (std::string line; std::getline(in, line);) {
        while (!line.empty() && line.back() == '\r') line.pop_back();
        if (line.starts_with("o ")) out.nodes.push_back(line.substr(2));
        if (line.starts_with("usemtl ")) addMaterial(out, line.substr(7));
    }
    if (!file.materialFile.empty()) {
        const std::string library = beside(path, file.materialFile);
        out.names.insert(library);
        std::ifstream materials(folder / library);
        for (std::string line; std::getline(materials, line);) {
            while (!line.empty() && line.back() == '\r') line.pop_back();
            if (const std::size_t at = line.find("map_");
                at == 0 || line.starts_with("bump ") || line.starts_with("norm "))
                out.names.insert(beside(library, line.substr(line.find(' ') + 1)));
        }
        const auto look = world::readMaterialFile(folder / library, file.materialName);
        object.colour = look.colour;
        if (!look.picture.empty()) object.picture = beside(library, look.picture);
    }
    if (out.nodes.empty()) out.nodes.push_back(object.name);
    out.objects.push_back(std::move(object));
    return out;
}

} // namespace zl::standins::files
