#include "core/deliver/engine_prop.h"

#include "core/base/error.h"
#include "core/base/unique_names.h"
#include "core/deliver/block_pictures.h"
#include "core/deliver/placed_for.h"
#include "core/formats/write_buffer.h"
#include "core/geometry/world.h"
#include "core/model/on_map.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::deliver {

namespace {

constexpr std::size_t longestName = 47; ///< in scripts

/// Small letters, digits and '_', as scripts take them.
std::string scriptName(const std::string& name) {
    std::string out = fileNameFrom(name).substr(0, longestName);
    std::ranges::replace(out, '-', '_');
    return out;
}

UniqueNames uniqueScriptNames() {
    return UniqueNames([](const std::string& name, int number) {
        const std::string behind = fmt::format("_{}", number);
        return name.substr(0, longestName - behind.size()) + behind;
    });
}

/// A line cannot hold what ends it.
std::string onOneLine(std::string text) {
    std::ranges::replace_if(
        text, [](unsigned char c) { return c < 32 || c == 127; }, ' ');
    return text;
}

void put(formats::WriteBuffer& out, const glm::vec3& v) {
    for (int k = 0; k < 3; ++k) out.text(" ").number(v[k] + 0.0f);
}

std::string meshText(const Model& ready, const std::vector<std::string>& materials) {
    formats::WriteBuffer corners, faces;
    std::uint32_t base = 0;
    geometry::forEachShownMesh(ready, [&](int, const Mesh& mesh, const glm::dmat4& place) {
        const Mesh placed = geometry::transformed(mesh, place);
        for (std::size_t v = 0; v < placed.vertexCount(); ++v) {
            corners.text("corner");
            put(corners, placed.positions[v]);
            put(corners, placed.normals.empty() ? glm::vec3(0, 0, 1) : placed.normals[v]);
            const glm::vec2 uv = placed.uvSets.empty() ? glm::vec2(0) : placed.uvSets[0][v];
            corners.text(" ").number(uv.x + 0.0f).text(" ").number(uv.y + 0.0f).text("\n");
        }
        const auto worn = triangleMaterials(placed);
        for (std::size_t t = 0; t < placed.triangleCount(); ++t) {
            faces.text("face");
            for (std::size_t k = 0; k < 3; ++k) faces.text(" ").number(base + placed.indices[3 * t + k]);
            faces.text(" ").text(materials[std::size_t(worn[t] + 1)]).text("\n");
        }
        base += std::uint32_t(placed.vertexCount());
    });
    return "mesh 1\n" + corners.take() + faces.take();
}

std::string bodyText(const Model& model, const glm::dmat4& toFile) {
    formats::WriteBuffer out;
    out.text("body 1\n");
    for (const Collider& body : model.colliders) {
        const Mesh placed = geometry::transformed(*body.mesh, toFile * body.placement);
        const int kind = placed.surfaces.empty() ? -1 : placed.surfaces[0];
        out.text("piece surface ").text(kind < 0 ? "none" : model.surfaceKinds[std::size_t(kind)]).text("\n");
        for (const glm::vec3& p : placed.positions) {
            out.text("corner");
            put(out, p);
            out.text("\n");
        }
        for (std::size_t t = 0; t < placed.triangleCount(); ++t) {
            out.text("face");
            for (std::size_t k = 0; k < 3; ++k) out.text(" ").number(placed.indices[3 * t + k]);
            out.text("\n");
        }
    }
    return out.take();
}

std::string levelText(const Model& model, const std::string& name, const glm::dmat4& toFile) {
    std::string out = "level 1\n";
    std::vector<MapPlace> places = model.onMap ? model.onMap->places : std::vector<MapPlace>();
    if (places.empty()) places.emplace_back(); // at the middle of the test map
    for (const MapPlace& place : places) {
        const glm::vec3 at(toFile * glm::dvec4(place.at, 1));
        const glm::dvec3 front = place.turn * glm::dvec3(0, 0, 1);
        formats::WriteBuffer line;
        line.text("place ").text(name).text(" at");
        put(line, at);
        // Turned about up, against the clock seen from above.
        line.text(" turn ").number(float(glm::degrees(std::atan2(front.x, front.z))) + 0.0f).text("\n");
        out += line.take();
    }
    return out;
}

} // namespace

std::vector<OutFile> EngineProp::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    const std::string name = scriptName(called.empty() ? labels.name : called);
    const glm::dmat4 toFile = formats::worldToFile(writeOptionsFor(sheet, {}));
    Model ready = withPicturesPlaced(withNormalsAdded(bakedFor(sheet, model)));
    const auto pictures = blockPictures(ready, progress.between(0, 0.7));
    progress.report(0.7, "writing the prop");
    UniqueNames names = uniqueScriptNames();
    std::vector<std::string> materials{names.made("plain")}; // for faces that wear none
    for (const Material& material : ready.materials)
        materials.push_back(names.made(scriptName(material.name)));
    std::string script = fmt::format("prop {}\nunit {}\n", name, sheet.fileMetresPerUnit());
    if (!labels.credit.empty()) script += fmt::format("credit {}\n", onOneLine(labels.credit));
    script += fmt::format("mesh {0}.mesh.txt\n", name);
    if (!model.colliders.empty()) script += fmt::format("body {0}.body.txt\n", name);
    for (const int m : usedMaterials(ready)) {
        script += fmt::format("material {}", materials[std::size_t(m) + 1]);
        if (m >= 0) {
            const Material& worn = ready.materials[std::size_t(m)];
            if (const PictureUse& use = worn.picture(PictureRole::Colour))
                script += fmt::format(" picture pictures/{}.dds", ready.images[std::size_t(use.image)]->name);
            else
                script += fmt::format(" colour {:.4f} {:.4f} {:.4f}", worn.baseColour.r, worn.baseColour.g,
                                      worn.baseColour.b);
        }
        script += "\n";
    }
    std::vector<OutFile> files{{name + ".prop.txt", script},
                               {name + ".mesh.txt", meshText(ready, materials)},
                               {name + ".level.txt", levelText(model, name, toFile)}};
    if (!model.colliders.empty()) files.push_back({name + ".body.txt", bodyText(model, toFile)});
    for (const OutFile& picture : pictures)
        files.push_back({"pictures/" + picture.name + ".dds", picture.bytes});
    return files;
}

} // namespace zl::deliver
