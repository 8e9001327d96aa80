// X3D 3.3, Interchange profile (ISO/IEC 19775-1): metres, Y up, one Transform an object with its corners in
// world space, materials with their colour picture, normals, UVs, colours.
#include "core/formats/format.h"
#include "core/formats/write_buffer.h"
#include "core/formats/written_pictures.h"
#include "core/formats/xml_text.h"

#include "core/base/unique_names.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <algorithm>

namespace zl::formats {

namespace {

/// DEF names are identifiers in XML's sense and stand once in a file.
std::string defName(const std::string& name, UniqueNames& taken) {
    std::string base;
    for (const char c : name) {
        const auto u = static_cast<unsigned char>(c);
        base += std::isalnum(u) || c == '_' || c == '-' || c == '.' || u >= 128 ? c : '_';
    }
    if (base.empty() || std::isdigit(static_cast<unsigned char>(base[0])) || base[0] == '-' || base[0] == '.')
        base = "_" + base;
    return taken.made(base);
}

template <class T>
std::string numbers(const std::vector<T>& values) {
    WriteBuffer text;
    text.reserve(values.size() * T::length() * 10);
    for (const T& value : values)
        for (int k = 0; k < T::length(); ++k) text.number(value[k]).text(" ");
    return text.take();
}

} // namespace

std::vector<OutFile> writeX3d(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    const WrittenPictures pictures = picturesBeside(model, options);
    pugi::xml_document document;
    auto declaration = document.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    auto root = document.append_child("X3D");
    root.append_attribute("profile") = "Interchange";
    root.append_attribute("version") = "3.3";
    auto scene = root.append_child("Scene");
    UniqueNames taken([](const std::string& name, int number) { return fmt::format("{}_{}", name, number); });
    std::vector<std::string> materialDef(model.materials.size());
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        if (mesh.indices.empty()) return; // readers stop at a transform around nothing
        const Mesh placed = geometry::withPlacedUvs(geometry::transformed(mesh, toWorld), model.materials);
        auto transform = scene.append_child("Transform");
        transform.append_attribute("DEF") = defName(model.nodes[node].name, taken).c_str();
        for (const MaterialRun& run : placed.runs) {
            if (run.triangleCount == 0) continue;
            auto shape = transform.append_child("Shape");
            auto appearance = shape.append_child("Appearance");
            if (run.material >= 0) {
                const Material& material = model.materials[run.material];
                auto target = appearance.append_child("Material");
                std::string& def = materialDef[run.material];
                if (def.empty()) {
                    def = defName(material.name, taken);
                    target.append_attribute("DEF") = def.c_str();
                    const auto& c = material.baseColour;
                    target.append_attribute("diffuseColor") = fmt::format("{} {} {}", c.r, c.g, c.b).c_str();
                    const auto& e = material.emission;
                    target.append_attribute("emissiveColor") = fmt::format("{} {} {}", e.r, e.g, e.b).c_str();
                    setNumber(target.append_attribute("transparency"), 1 - c.a);
                } else {
                    target.append_attribute("USE") = def.c_str();
                }
                if (const auto picture = pictures.names.find(material.image(PictureRole::Colour));
                    picture != pictures.names.end())
                    appearance.append_child("ImageTexture").append_attribute("url") =
                        ("\"" + picture->second + "\"").c_str();
            }
            // Corners of this run only: readers differ on sharing them between shapes.
            const std::size_t first = 3 * std::size_t(run.firstTriangle),
                              count = 3 * std::size_t(run.triangleCount);
            std::vector<std::uint32_t> keep, newIndex(placed.vertexCount(), ~0u);
            WriteBuffer index;
            for (std::size_t c = first; c < first + count; ++c) {
                std::uint32_t& n = newIndex[placed.indices[c]];
                if (n == ~0u) {
                    n = static_cast<std::uint32_t>(keep.size());
                    keep.push_back(placed.indices[c]);
                }
                index.number(n).text(c % 3 == 2 ? " -1 " : " ");
            }
            const Mesh own = withVertices(placed, keep, {}, {});
            auto faces = shape.append_child("IndexedFaceSet");
            faces.append_attribute("solid") = "false";
            faces.append_attribute("coordIndex") = index.take().c_str();
            faces.append_child("Coordinate").append_attribute("point") = numbers(own.positions).c_str();
            if (!own.normals.empty()) {
                faces.append_attribute("normalPerVertex") = "true";
                faces.append_child("Normal").append_attribute("vector") = numbers(own.normals).c_str();
            }
            if (!own.uvSets.empty()) {
                auto flipped = own.uvSets[0]; // X3D's origin is bottom left
                for (glm::vec2& uv : flipped) uv.y = 1 - uv.y;
                faces.append_child("TextureCoordinate").append_attribute("point") = numbers(flipped).c_str();
            }
            if (!own.colours.empty()) {
                faces.append_attribute("colorPerVertex") = "true";
                faces.append_child("ColorRGBA").append_attribute("color") = numbers(own.colours).c_str();
            }
        }
    });
    if (dropped) {
        if (std::ranges::any_of(model.nodes, [](const Node& n) { return n.parent >= 0; }))
            dropped->emplace_back("the hierarchy of objects");
        if (!model.skins.empty()) dropped->emplace_back("bones and weights");
        if (!model.clips.empty()) dropped->emplace_back("clips");
    }
    std::vector<OutFile> files{{options.name + ".x3d", printedXml(document)}};
    files.insert(files.end(), pictures.files.begin(), pictures.files.end());
    return files;
}

} // namespace zl::formats
