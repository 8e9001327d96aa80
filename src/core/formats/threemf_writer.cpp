// 3MF core specification 1.3: a zip of one model part; objects with names in the unit the part states, Z up,
// colours of materials as base materials. Only exact units of the specification can be stated, so others are
// written in millimetres.
#include "core/formats/format.h"
#include "core/formats/write_buffer.h"
#include "core/formats/xml_text.h"

#include "core/base/archive.h"
#include "core/geometry/world.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace zl::formats {

namespace {

constexpr const char* types =
    R"(<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>)";
constexpr const char* relations =
    R"(<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>)";

std::pair<const char*, double> statedUnit(double metres) {
    static constexpr std::pair<const char*, double> known[] = {{"micron", 1e-6},     {"millimeter", 1e-3},
                                                               {"centimeter", 1e-2}, {"inch", 0.0254},
                                                               {"foot", 0.3048},     {"meter", 1.0}};
    for (const auto& unit : known)
        if (std::abs(unit.second - metres) < 1e-9 * metres) return unit;
    return known[1];
}

/// The used materials as one group; returns the place of each in it. Where some faces wear none, those get a
/// plain one, for they would wear their object's.
std::map<int, int> writeMaterials(pugi::xml_node resources, const Model& model) {
    std::map<int, int> place;
    const std::vector<int> used = usedMaterials(model);
    if (std::ranges::none_of(used, [](int m) { return m >= 0; })) return place;
    auto group = resources.append_child("basematerials");
    group.append_attribute("id") = 1;
    const Material plain{.name = "plain"};
    for (const int m : used) {
        place.emplace(m, static_cast<int>(place.size()));
        const Material& material = m < 0 ? plain : model.materials[m];
        const auto byte = [](float c) { return int(texture::toByte(texture::toSrgb(c))); };
        const glm::vec4& c = material.baseColour;
        auto base = group.append_child("base");
        base.append_attribute("name") = xmlText(material.name).c_str();
        base.append_attribute("displaycolor") = fmt::format("#{:02X}{:02X}{:02X}{:02X}", byte(c.r), byte(c.g),
                                                            byte(c.b), int(texture::toByte(c.a)))
                                                    .c_str();
    }
    return place;
}

/// Whether an object wears several materials, which the file holds and some readers make one of.
bool wearsSeveral(const Mesh& mesh) {
    std::set<int> used;
    for (const MaterialRun& run : mesh.runs)
        if (run.triangleCount > 0) used.insert(run.material);
    return used.size() > 1;
}

} // namespace

void fix3mfFrame(WriteOptions& options) {
    options.metresPerUnit = statedUnit(options.metresPerUnit).second;
    options.up = Up::Z;
}

std::vector<OutFile> write3mf(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    const auto [unit, metres] = statedUnit(options.metresPerUnit);
    const glm::dmat4 toFile = worldToFile({options.name, metres, Up::Z});
    pugi::xml_document document;
    auto declaration = document.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    auto root = document.append_child("model");
    root.append_attribute("unit") = unit;
    root.append_attribute("xml:lang") = "en";
    root.append_attribute("xmlns") = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02";
    auto resources = root.append_child("resources");
    const auto place = writeMaterials(resources, model);
    std::vector<int> items;
    int id = 2;
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        if (mesh.indices.empty()) return;
        const Mesh placed = geometry::transformed(mesh, toFile * toWorld);
        auto object = resources.append_child("object");
        object.append_attribute("id") = id;
        object.append_attribute("type") = "model";
        object.append_attribute("name") = xmlText(model.nodes[node].name).c_str();
        const auto worn =
            std::ranges::find_if(placed.runs, [](const MaterialRun& run) { return run.triangleCount > 0; });
        const auto first = place.find(worn == placed.runs.end() ? -1 : worn->material);
        if (first != place.end()) {
            object.append_attribute("pid") = 1;
            object.append_attribute("pindex") = first->second;
        }
        auto target = object.append_child("mesh");
        auto vertices = target.append_child("vertices");
        for (const glm::vec3& p : placed.positions) {
            auto vertex = vertices.append_child("vertex");
            setNumber(vertex.append_attribute("x"), p.x);
            setNumber(vertex.append_attribute("y"), p.y);
            setNumber(vertex.append_attribute("z"), p.z);
        }
        auto triangles = target.append_child("triangles");
        const auto materials = triangleMaterials(placed);
        for (std::size_t t = 0; t < placed.triangleCount(); ++t) {
            auto triangle = triangles.append_child("triangle");
            triangle.append_attribute("v1") = placed.indices[3 * t];
            triangle.append_attribute("v2") = placed.indices[3 * t + 1];
            triangle.append_attribute("v3") = placed.indices[3 * t + 2];
            if (const auto own = place.find(materials[t]); own != place.end()) {
                triangle.append_attribute("pid") = 1;
                triangle.append_attribute("p1") = own->second;
            }
        }
        items.push_back(id++);
    });
    auto build = root.append_child("build");
    for (const int item : items) build.append_child("item").append_attribute("objectid") = item;
    if (dropped) {
        dropped->emplace_back("UVs, normals and pictures");
        if (std::ranges::any_of(model.meshes, [](const auto& mesh) { return wearsSeveral(*mesh); }))
            dropped->emplace_back("in some readers: materials of single faces (they take one an object)");
        if (std::ranges::any_of(model.nodes, [](const Node& n) { return n.parent >= 0; }))
            dropped->emplace_back("the hierarchy of objects");
        if (!model.skins.empty()) dropped->emplace_back("bones and weights");
        if (!model.clips.empty()) dropped->emplace_back("clips");
    }
    return {
        {options.name + ".3mf", zipped({{"[Content_Types].xml", types},
                                        {"_rels/.rels", relations},
                                        {"3D/3dmodel.model", printedXml(document, "", pugi::format_raw)}})}};
}

} // namespace zl::formats
