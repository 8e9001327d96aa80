#include "standins/files/delivered.h"

#include "standins/world/collada_file.h"
#include "standins/world/glb_tree.h"
#include "standins/world/obj_file.h"

#include "core/base/letters.h"

#include <fmt/format.h>

#include <cstring>
#include <fstream>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

std::string wholeOf(const fs::path& file) {
    std::ifstream in(file, std::ios::binary);
    std::ostringstream out;
    out << in.rdbuf();
    return std::move(out).str();
}

/// A name in a file as a path below the delivered folder.
std::string beside(const std::string& path, const std::string& name) {
    std::string plain = name;
    for (std::size_t at; (at = plain.find("%20")) != std::string::npos;) plain.replace(at, 3, " ");
    return (fs::path(path).parent_path() / plain).lexically_normal().generic_string();
}

void count(Read& out) {
    for (const Read::Object& object : out.objects) {
        out.triangles += object.shape.indices.size() / 3;
        out.corners = std::max(out.corners, object.shape.positions.size());
    }
}

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
        if (line.starts_with("usemtl ") &&
            std::ranges::find(out.materials, line.substr(7)) == out.materials.end())
            out.materials.push_back(line.substr(7));
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
    count(out);
    return out;
}

/// Binary STL, whose size says how many triangles there are; or its text.
Read readStl(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string bytes = wholeOf(folder / path);
    world::Shape shape;
    const auto add = [&shape](const glm::vec3& p) {
        shape.indices.push_back(std::uint32_t(shape.positions.size()));
        shape.positions.push_back(p);
    };
    std::uint32_t triangles = 0;
    if (bytes.size() >= 84) std::memcpy(&triangles, bytes.data() + 80, 4);
    if (bytes.size() >= 84 && bytes.size() == 84 + std::size_t(triangles) * 50) {
        for (std::size_t t = 0; t < triangles; ++t)
            for (std::size_t c = 0; c < 3; ++c) {
                glm::vec3 p;
                std::memcpy(&p, bytes.data() + 84 + 50 * t + 12 + 12 * c, 12);
                add(p);
            }
    } else if (bytes.starts_with("solid")) {
        std::istringstream in(bytes);
        in.imbue(std::locale::classic());
        for (std::string word; in >> word;)
            if (word == "vertex") {
                glm::vec3 p(0);
                if (!(in >> p.x >> p.y >> p.z)) break;
                add(p);
            }
    }
    if (shape.indices.empty() || shape.indices.size() % 3 != 0) {
        out.problem = "has no whole triangles, or is cut short";
        return out;
    }
    const std::string name = fs::path(path).stem().string();
    out.nodes.push_back(name);
    out.objects.push_back({name, "", "", std::move(shape)});
    count(out);
    return out;
}

Read readGlb(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string bytes = wholeOf(folder / path);
    world::GlbTree tree = world::readGlbTree(bytes);
    out.problem = tree.problem;
    for (const auto& material : tree.materials) {
        out.materials.push_back(material.name);
        if (!material.pictureFile.empty()) out.names.insert(beside(path, material.pictureFile));
    }
    for (world::GlbNode& node : tree.nodes) {
        out.nodes.push_back(node.name);
        for (world::GlbSurface& surface : node.surfaces) {
            Read::Object object{node.name, node.above < 0 ? "" : tree.nodes[std::size_t(node.above)].name, "",
                                std::move(surface.shape)};
            if (surface.material >= 0 && std::size_t(surface.material) < tree.materials.size()) {
                const auto& look = tree.materials[std::size_t(surface.material)];
                object.material = look.name, object.colour = look.colour;
                if (!look.pictureFile.empty()) object.picture = beside(path, look.pictureFile);
            }
            out.objects.push_back(std::move(object));
        }
    }
    count(out);
    return out;
}

Read readDae(const fs::path& folder, const std::string& path) {
    Read out{path};
    world::ColladaFile file = world::readColladaFile(wholeOf(folder / path));
    out.problem = file.problem;
    if (!file.problem.empty()) return out;
    out.metres = file.unitMetres;
    out.up = file.upAxis.starts_with("Z") ? "Z" : "Y";
    for (world::ColladaPart& part : file.parts) {
        out.nodes.push_back(part.name);
        Read::Object object{part.name, "", part.worn.empty() ? "" : part.worn[0].material,
                            std::move(part.shape)};
        object.colour = part.colour;
        if (!part.picture.empty())
            object.picture = beside(path, part.picture), out.names.insert(object.picture);
        for (const auto& worn : part.worn)
            if (std::ranges::find(out.materials, worn.material) == out.materials.end() &&
                !worn.material.empty())
                out.materials.push_back(worn.material);
        out.objects.push_back(std::move(object));
    }
    out.nodes.insert(out.nodes.end(), file.empty.begin(), file.empty.end());
    count(out);
    return out;
}

} // namespace

namespace {

/// Readers by the ending of what they read.
const std::map<std::string, Read (*)(const fs::path& folder, const std::string& path)>& readers() {
    static const std::map<std::string, Read (*)(const fs::path&, const std::string&)> all{
        {".obj", readObj}, {".stl", readStl}, {".glb", readGlb}, {".vrm", readGlb}, {".dae", readDae}};
    return all;
}

} // namespace

bool isReadHere(const std::string& path) {
    return readers().contains(lowerCase(fs::path(path).extension().string()));
}

std::optional<Read> readModelFile(const fs::path& folder, const std::string& path) {
    const auto reader = readers().find(lowerCase(fs::path(path).extension().string()));
    if (reader == readers().end()) return std::nullopt;
    Read out = reader->second(folder, path);
    for (const Read::Object& object : out.objects)
        for (const glm::vec3& p : object.shape.positions)
            if (!std::isfinite(p.x) || !std::isfinite(p.y) || !std::isfinite(p.z)) {
                out.problem = "a corner is no number";
                out.objects.clear();
                return out;
            }
    return out;
}

glm::mat4 toShown(const platform::FileTerms& terms) {
    const auto axis = [](const std::string& word) {
        glm::vec3 out(0);
        out[word.size() > 1 ? std::clamp(word[1] - 'X', 0, 2) : 2] = word.starts_with('-') ? -1.0f : 1.0f;
        return out;
    };
    const glm::vec3 up = terms.up == Up::Y ? glm::vec3(0, 1, 0) : glm::vec3(0, 0, 1),
                    front = axis(terms.front), side = glm::cross(up, front);
    const float scale = float(terms.fileMetres / terms.metres);
    glm::mat4 out(1.0f);
    for (int k = 0; k < 3; ++k) out[k] = glm::vec4(side[k] * scale, up[k] * scale, front[k] * scale, 0);
    return out;
}

} // namespace zl::standins::files
