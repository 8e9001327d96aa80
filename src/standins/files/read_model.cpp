#include "standins/files/formats/readers.h"

#include "core/base/letters.h"

#include <algorithm>
#include <cmath>
#include <fstream>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

using Reader = Read (*)(const fs::path& folder, const std::string& path);

/// By the ending of what they read.
const std::map<std::string, Reader>& readers() {
    static const std::map<std::string, Reader> all{
        {".obj", readObj}, {".stl", readStl}, {".ply", readPly},
        {".glb", readGlb}, {".vrm", readGlb}, {".dae", readCollada},
        {".x3d", readX3d}, {".3mf", read3mf}, {".lamplevel", readLevel}};
    return all;
}

std::string endingOf(const std::string& path) {
    return lowerCase(fs::path(path).extension().string());
}

/// Counts what is there; a corner that is no number makes nothing of it.
Read counted(Read read) {
    for (const Read::Object& object : read.objects) {
        const bool finite = std::ranges::all_of(object.shape.positions, [](const glm::vec3& p) {
            return std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z);
        });
        if (!finite) {
            read.problem = "a corner is no number";
            read.objects.clear();
            read.triangles = read.corners = 0;
            return read;
        }
        read.triangles += object.shape.indices.size() / 3;
        read.corners = std::max(read.corners, object.shape.positions.size());
    }
    return read;
}

} // namespace

std::string wholeOf(const fs::path& file) {
    std::ifstream in(file, std::ios::binary);
    std::ostringstream out;
    out << in.rdbuf();
    return std::move(out).str();
}

std::string beside(const std::string& path, const std::string& name) {
    std::string plain = name;
    for (std::size_t at; (at = plain.find("%20")) != std::string::npos;) plain.replace(at, 3, " ");
    return (fs::path(path).parent_path() / plain).lexically_normal().generic_string();
}

void addObject(Read& read, std::string name, world::Shape shape, std::string material) {
    read.nodes.push_back(name);
    read.objects.push_back({std::move(name), "", std::move(material), std::move(shape)});
}

void addMaterial(Read& read, const std::string& name) {
    if (!name.empty() && std::ranges::find(read.materials, name) == read.materials.end())
        read.materials.push_back(name);
}

bool isModel(const std::string& path) {
    static const std::set<std::string> foreign{".gltf", ".fbx", ".off",
                                               ".amf"}; // nothing is delivered in these
    const std::string ending = endingOf(path);
    return readers().contains(ending) || foreign.contains(ending);
}

std::optional<Read> readModelFile(const fs::path& folder, const std::string& path) {
    const auto reader = readers().find(endingOf(path));
    if (reader == readers().end()) return std::nullopt;
    return counted(reader->second(folder, path));
}

std::optional<Read> readExampleFile(const fs::path& folder, const std::string& path) {
    if (!isModel(path)) return std::nullopt;
    auto own = readModelFile(folder, path);
    if (own && own->problem.empty() && !own->partly && own->triangles > 0) return own;
    Read foreign = counted(readForeign(folder, path));
    return !own || (foreign.problem.empty() && foreign.triangles > 0) ? std::move(foreign) : std::move(own);
}

glm::mat4 toShown(const Read& model, const platform::FileTerms& terms) {
    const auto axis = [](const std::string& word) {
        glm::vec3 out(0);
        out[word.size() > 1 ? std::clamp(word[1] - 'X', 0, 2) : 2] = word.starts_with('-') ? -1.0f : 1.0f;
        return out;
    };
    const bool zUp = model.up.empty() ? terms.up == Up::Z : model.up == "Z";
    const bool asWanted = zUp == (terms.up == Up::Z); // else the front that is usual there
    const glm::vec3 up = zUp ? glm::vec3(0, 0, 1) : glm::vec3(0, 1, 0),
                    front = axis(asWanted ? terms.front
                                 : zUp    ? "-Y"
                                          : "+Z"),
                    side = glm::cross(up, front);
    const float scale = float((model.metres > 0 ? model.metres : terms.fileMetres) / terms.metres);
    glm::mat4 out(1.0f);
    for (int k = 0; k < 3; ++k) out[k] = glm::vec4(side[k] * scale, up[k] * scale, front[k] * scale, 0);
    return out;
}

} // namespace zl::standins::files
