// X3D in XML (ISO/IEC 19776-1): groups and their places, shapes of faces with what they wear. Metres, Y up.
#include "standins/files/formats/readers.h"

#include "core/base/plain_number.h"

#include <glm/gtc/matrix_transform.hpp>
#include <pugixml.hpp>

#include <cstring>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

std::vector<float> listedNumbers(const char* text) {
    std::vector<float> out;
    for (std::string_view rest(text); !rest.empty();) {
        const std::size_t next = rest.find_first_not_of(" \t\r\n,"); // commas are blanks there
        if (next == std::string_view::npos) break;
        rest.remove_prefix(next);
        const auto value = plainNumber<float>(rest, &rest);
        if (!value) throw Broken{"a number is none"};
        out.push_back(*value);
    }
    return out;
}

template <class T>
std::vector<T> vectorsIn(const char* text) {
    const auto numbers = listedNumbers(text);
    std::vector<T> out(numbers.size() / T::length());
    for (std::size_t i = 0; i < out.size(); ++i)
        for (int k = 0; k < T::length(); ++k) out[i][k] = numbers[i * T::length() + std::size_t(k)];
    return out;
}

glm::vec3 vectorIn(pugi::xml_node node, const char* name, const glm::vec3& otherwise) {
    const auto all = vectorsIn<glm::vec3>(node.attribute(name).value());
    return all.empty() ? otherwise : all[0];
}

/// How what is below a Transform stands in what is above it (ISO/IEC 19775-1, 10.4.4); its
/// scaleOrientation is not looked at.
glm::mat4 transformOf(pugi::xml_node node) {
    const glm::vec3 centre = vectorIn(node, "center", glm::vec3(0));
    glm::mat4 out = glm::translate(glm::mat4(1.0f), vectorIn(node, "translation", glm::vec3(0)) + centre);
    const auto turn = vectorsIn<glm::vec4>(node.attribute("rotation").value());
    if (!turn.empty() && glm::length(glm::vec3(turn[0])) > 0)
        out = glm::rotate(out, turn[0].w, glm::vec3(turn[0]));
    return glm::translate(glm::scale(out, vectorIn(node, "scale", glm::vec3(1))), -centre);
}

class X3dReader {
public:
    static constexpr std::size_t mostNodes = 200'000, mostRead = 400'000'000;
    static constexpr int deepest = 64;

    X3dReader(pugi::xml_node scene, const std::string& path, Read& out) : path_(path), out_(out) {
        out_.metres = 1, out_.up = "Y";
        collect(scene, 0);
        walk(scene, "", glm::mat4(1.0f), 0);
    }

private:
    void collect(pugi::xml_node node, int depth) {
        if (depth > deepest) throw Broken{"it is too deep"};
        for (const auto child : node.children()) {
            if (const auto name = child.attribute("DEF")) defined_.try_emplace(name.value(), child);
            collect(child, depth + 1);
        }
    }
    /// Itself, or what it stands for.
    pugi::xml_node meant(pugi::xml_node node) const {
        const auto used = node.attribute("USE");
        if (!used) return node;
        const auto found = defined_.find(used.value());
        if (found == defined_.end()) throw Broken{"it uses what is not there"};
        return found->second;
    }

    void walk(pugi::xml_node above, const std::string& name, const glm::mat4& place, int depth) {
        if (depth > deepest) throw Broken{"it holds itself"};
        for (const auto child : above.children()) {
            if (++seen_ > mostNodes) throw Broken{"it has too many nodes, or holds itself"};
            const auto node = meant(child);
            const std::string kind = node.name();
            const std::string own = node.attribute("DEF").value();
            if (kind == "Shape")
                add(node, name.empty() ? own : name, place);
            else if (kind == "Transform" && !own.empty() && !child.attribute("USE"))
                out_.nodes.push_back(own), walk(node, own, place * transformOf(node), depth + 1);
            else if (kind == "Transform")
                walk(node, own.empty() ? name : own, place * transformOf(node), depth + 1);
            else if (node.first_child())
                walk(node, own.empty() ? name : own, place, depth + 1);
        }
    }

    void add(pugi::xml_node node, const std::string& name, const glm::mat4& place) {
        world::Shape shape;
        for (const auto child : node.children()) {
            const auto faces = meant(child);
            const std::string kind = faces.name();
            if (kind == "IndexedFaceSet" || kind == "IndexedTriangleSet" || kind == "TriangleSet")
                shape = facesOf(faces, kind, place);
        }
        if (shape.indices.empty()) return;
        if (name.empty())
            addObject(out_, fs::path(path_).stem().string(), std::move(shape));
        else // its node is there already
            out_.objects.push_back({name, "", "", std::move(shape)});
        const auto look = meant(node.child("Appearance"));
        if (!look) return;
        Read::Object& object = out_.objects.back();
        if (const auto given = look.child("Material")) {
            const auto material = meant(given);
            object.material = material.attribute("DEF").value();
            addMaterial(out_, object.material);
            object.colour = glm::sqrt(glm::max(vectorIn(material, "diffuseColor", glm::vec3(0.64f)), 0.0f));
        }
        if (const auto given = look.child("ImageTexture")) {
            std::string url = meant(given).attribute("url").value(); // one name or several, in quotes or not
            if (const auto first = url.find('"'); first != std::string::npos)
                url = url.substr(first + 1, url.find('"', first + 1) - first - 1);
            object.picture = beside(path_, url);
            out_.names.insert(object.picture);
        }
    }

    /// A list of numbers as text. What is used many times is read as often, up to a limit.
    const char* listOf(pugi::xml_node node, const char* name) {
        const char* text = node.attribute(name).value();
        if ((read_ += std::strlen(text)) > mostRead) throw Broken{"it shows too much"};
        return text;
    }

    world::Shape facesOf(pugi::xml_node faces, const std::string& kind, const glm::mat4& place) {
        world::Shape shape;
        shape.positions = vectorsIn<glm::vec3>(listOf(meant(faces.child("Coordinate")), "point"));
        for (glm::vec3& p : shape.positions) p = glm::vec3(place * glm::vec4(p, 1));
        const auto index = [&](float value) {
            if (!(value >= 0 && value < float(shape.positions.size())))
                throw Broken{"a face refers to a corner that is not there"};
            shape.indices.push_back(std::uint32_t(value));
        };
        if (kind == "TriangleSet")
            for (std::size_t i = 0; i + 2 < shape.positions.size(); i += 3)
                for (std::size_t k = 0; k < 3; ++k) index(float(i + k));
        if (kind == "IndexedTriangleSet") {
            const auto all = listedNumbers(listOf(faces, "index"));
            for (std::size_t i = 0; i + 2 < all.size(); i += 3)
                for (std::size_t k = 0; k < 3; ++k) index(all[i + k]);
        }
        if (kind == "IndexedFaceSet") {
            auto all = listedNumbers(listOf(faces, "coordIndex"));
            all.push_back(-1);
            for (std::size_t first = 0, i = 0; i < all.size(); ++i) {
                if (all[i] >= 0) continue;
                for (std::size_t k = first + 2; k < i; ++k)
                    for (const float value : {all[first], all[k - 1], all[k]}) index(value);
                first = i + 1;
            }
        }
        // Where normals and UVs have lists of their own they are not looked at.
        const bool together = !faces.attribute("normalIndex") && !faces.attribute("texCoordIndex");
        if (together) {
            shape.normals = vectorsIn<glm::vec3>(listOf(meant(faces.child("Normal")), "vector"));
            shape.uvs = vectorsIn<glm::vec2>(listOf(meant(faces.child("TextureCoordinate")), "point"));
        }
        for (glm::vec3& n : shape.normals) n = glm::mat3(place) * n;
        for (glm::vec2& uv : shape.uvs) uv.y = 1 - uv.y;
        shape.uvs.resize(shape.positions.size());
        world::addMissingNormals(shape);
        return shape;
    }

    std::string path_;
    Read& out_;
    std::map<std::string, pugi::xml_node> defined_;
    std::size_t seen_ = 0, read_ = 0; ///< nodes, and bytes of lists
};

} // namespace

Read readX3d(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string bytes = wholeOf(folder / path);
    pugi::xml_document document;
    if (!document.load_buffer(bytes.data(), bytes.size()) || !document.child("X3D").child("Scene")) {
        out.problem = "it is no X3D scene in XML";
        return out;
    }
    try {
        X3dReader(document.child("X3D").child("Scene"), path, out);
    } catch (const Broken& broken) {
        out.problem = broken.why;
    }
    return out;
}

} // namespace zl::standins::files
