#include "standins/world/obj_file.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fstream>
#include <map>
#include <set>
#include <tuple>

namespace zl::standins::world {

namespace {

std::vector<std::string_view> wordsOf(std::string_view line) {
    std::vector<std::string_view> words;
    std::size_t at = 0;
    while ((at = line.find_first_not_of(" \t\r", at)) != std::string_view::npos) {
        const std::size_t end = std::min(line.find_first_of(" \t\r", at), line.size());
        words.push_back(line.substr(at, end - at));
        at = end;
    }
    return words;
}

/// What follows a word on its line, without the blanks around it.
std::string restBehind(std::string_view line, std::string_view word) {
    line.remove_prefix(line.find(word) + word.size());
    const std::size_t first = line.find_first_not_of(" \t\r"), last = line.find_last_not_of(" \t\r");
    return first == std::string_view::npos ? std::string()
                                           : std::string(line.substr(first, last - first + 1));
}

template <class T>
bool numberIn(std::string_view word, T& value) {
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
    return error == std::errc() && end == word.data() + word.size();
}

/// "7/3/5", "7//5", "7/3" or "7" as zero-based numbers, -1 where absent; false when it is none of them.
bool cornerIn(std::string_view word, int (&parts)[3]) {
    for (int k = 0; k < 3; ++k) {
        parts[k] = -1;
        if (word.empty()) continue;
        const std::size_t slash = word.find('/');
        const std::string_view number = word.substr(0, slash);
        if (!number.empty()) {
            if (!numberIn(number, parts[k]) || parts[k] < 1) return false;
            --parts[k];
        }
        word = slash == std::string_view::npos ? std::string_view{} : word.substr(slash + 1);
    }
    return parts[0] >= 0;
}

} // namespace

ObjFile readObjFile(const std::filesystem::path& path) {
    ObjFile out;
    std::ifstream in(path);
    if (!in) {
        out.problem = "cannot be opened";
        return out;
    }
    std::vector<glm::vec3> positions, normals;
    std::vector<glm::vec2> uvs;
    std::set<std::string, std::less<>> materials;
    std::map<std::tuple<int, int, int>, std::uint32_t> made;
    std::string line;
    for (std::size_t number = 1; std::getline(in, line); ++number) {
        const auto words = wordsOf(line);
        if (words.empty() || words[0][0] == '#') continue;
        const auto fail = [&](std::string_view what) {
            out.problem = fmt::format("line {}: {}", number, what);
        };
        const auto floats = [&](float* to, std::size_t count) {
            if (words.size() < count + 1) return false;
            for (std::size_t k = 0; k < count; ++k)
                if (!numberIn(words[k + 1], to[k]) || !std::isfinite(to[k])) return false;
            return true;
        };
        if (words[0] == "v") {
            if (!floats(&positions.emplace_back().x, 3)) return fail("a corner is not three numbers"), out;
        } else if (words[0] == "vn") {
            if (!floats(&normals.emplace_back().x, 3)) return fail("a normal is not three numbers"), out;
        } else if (words[0] == "vt") {
            if (!floats(&uvs.emplace_back().x, 2)) return fail("a UV is not two numbers"), out;
        } else if (words[0] == "o") {
            ++out.objects;
        } else if (words[0] == "mtllib") {
            out.materialFile = restBehind(line, "mtllib");
        } else if (words[0] == "usemtl") {
            out.materialName = restBehind(line, "usemtl");
            materials.insert(out.materialName);
        } else if (words[0] == "f") {
            if (words.size() != 4)
                return fail(
                           fmt::format("a face has {} corners; the table takes triangles", words.size() - 1)),
                       out;
            for (int k = 0; k < 3; ++k) {
                int c[3];
                if (!cornerIn(words[k + 1], c) || c[0] >= int(positions.size()) || c[1] >= int(uvs.size()) ||
                    c[2] >= int(normals.size()))
                    return fail("a face refers to something that is not there"), out;
                const auto [entry, isNew] =
                    made.try_emplace({c[0], c[1], c[2]}, std::uint32_t(out.shape.positions.size()));
                if (isNew) {
                    out.shape.positions.push_back(positions[c[0]]);
                    out.shape.uvs.push_back(c[1] >= 0 ? glm::vec2(uvs[c[1]].x, 1 - uvs[c[1]].y)
                                                      : glm::vec2(0));
                    out.shape.normals.push_back(c[2] >= 0 ? normals[c[2]] : glm::vec3(0));
                }
                out.shape.indices.push_back(entry->second);
            }
            ++out.triangles;
        }
    }
    out.materials = materials.size();
    if (out.triangles == 0) out.problem = "has no faces";
    // Where the file brings no normals, the table lights each face flat.
    for (std::size_t t = 0; t + 2 < out.shape.indices.size(); t += 3) {
        const std::uint32_t* c = &out.shape.indices[t];
        const glm::vec3 n = glm::cross(out.shape.positions[c[1]] - out.shape.positions[c[0]],
                                       out.shape.positions[c[2]] - out.shape.positions[c[0]]);
        for (int k = 0; k < 3; ++k)
            if (out.shape.normals[c[k]] == glm::vec3(0) && glm::length(n) > 0)
                out.shape.normals[c[k]] = glm::normalize(n);
    }
    return out;
}

MaterialFile readMaterialFile(const std::filesystem::path& path, const std::string& material) {
    MaterialFile out;
    std::ifstream in(path);
    std::string line;
    bool inside = false;
    while (std::getline(in, line)) {
        const auto words = wordsOf(line);
        if (words.size() < 2) continue;
        if (words[0] == "newmtl") {
            inside = restBehind(line, "newmtl") == material;
            out.found |= inside;
        } else if (inside && words[0] == "Kd" && words.size() == 4) {
            for (int k = 0; k < 3; ++k) numberIn(words[k + 1], out.colour[k]);
        } else if (inside && words[0] == "map_Kd") {
            // Whether a picture goes on beyond its edges does not matter to what is looked at here.
            out.picture = restBehind(line, words.size() > 3 && words[1] == "-clamp" ? words[2] : words[0]);
        }
    }
    return out;
}

} // namespace zl::standins::world
