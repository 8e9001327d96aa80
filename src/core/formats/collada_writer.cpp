// COLLADA 1.4.1 (Khronos/Sony specification, 2008): unit, up axis, nodes with names and matrices, materials
// with their colour picture, positions, normals, UV sets, colours. Bones and clips are collada_motion.cpp's.
#include "core/formats/collada_motion.h"
#include "core/formats/collada_xml.h"
#include "core/formats/format.h"
#include "core/formats/write_buffer.h"
#include "core/formats/written_pictures.h"
#include "core/formats/xml_text.h"

#include "core/base/unique_names.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <set>

namespace zl::formats {

using namespace collada;

namespace {

/// How pictures lie is in the UVs, and corners that differently placed pictures share are parted: for shapes
/// and what hangs them on bones alike.
Model placed(Model model) {
    for (auto& mesh : model.meshes)
        mesh = std::make_shared<const Mesh>(geometry::withPlacedUvs(*mesh, model.materials));
    return model;
}

class ColladaWriter {
public:
    ColladaWriter(const Model& model, const WriteOptions& options)
        : model_(placed(model)), options_(options), pictures_(picturesBeside(model, options)),
          rootMatrix_(worldToFile(options) * model.placement) {}

    std::vector<OutFile> write() {
        auto declaration = document_.append_child(pugi::node_declaration);
        declaration.append_attribute("version") = "1.0";
        declaration.append_attribute("encoding") = "utf-8";
        root_ = document_.append_child("COLLADA");
        root_.append_attribute("xmlns") = "http://www.collada.org/2005/11/COLLADASchema";
        root_.append_attribute("version") = "1.4.1";
        writeAsset();
        writeMaterials();
        writeGeometries();
        writeSkins(root_, model_);
        writeClips(root_, model_, rootMatrix_);
        writeScene();
        std::vector<OutFile> files{{options_.name + ".dae", printedXml(document_)}};
        files.insert(files.end(), pictures_.files.begin(), pictures_.files.end());
        return files;
    }

private:
    void writeAsset() {
        auto asset = root_.append_child("asset");
        child(asset.append_child("contributor"), "authoring_tool", "Zest Loom");
        child(asset, "created", "2000-01-01T00:00:00Z"); // the same model gives the same file
        child(asset, "modified", "2000-01-01T00:00:00Z");
        auto unit = asset.append_child("unit");
        unit.append_attribute("name") = unitOfMetres(options_.metresPerUnit).name.c_str();
        unit.append_attribute("meter") = fmt::format("{}", options_.metresPerUnit).c_str();
        child(asset, "up_axis", options_.up == Up::Y ? "Y_UP" : "Z_UP");
    }

    void writeMaterials() {
        auto images = root_.append_child("library_images");
        auto effects = root_.append_child("library_effects");
        auto materials = root_.append_child("library_materials");
        for (const auto& [index, name] : pictures_.names)
            child(withId(images, "image", fmt::format("image-{}", index)), "init_from", name);
        for (const int m : usedMaterials(model_)) {
            if (m < 0) continue;
            const Material& material = model_.materials[m];
            auto profile =
                withId(effects, "effect", fmt::format("effect-{}", m)).append_child("profile_COMMON");
            const auto picture = pictures_.names.find(material.image(PictureRole::Colour));
            if (picture != pictures_.names.end()) {
                auto surface = profile.append_child("newparam");
                surface.append_attribute("sid") = "surface";
                auto inner = surface.append_child("surface");
                inner.append_attribute("type") = "2D";
                child(inner, "init_from", fmt::format("image-{}", picture->first));
                auto sampler = profile.append_child("newparam");
                sampler.append_attribute("sid") = "sampler";
                child(sampler.append_child("sampler2D"), "source", "surface");
            }
            auto technique = profile.append_child("technique");
            technique.append_attribute("sid") = "common";
            auto shading = technique.append_child("lambert");
            const auto colour = [&](const char* name, const glm::vec4& c) {
                child(shading.append_child(name), "color", fmt::format("{} {} {} {}", c.r, c.g, c.b, c.a));
            };
            colour("emission", glm::vec4(material.emission, 1));
            if (picture != pictures_.names.end()) {
                auto texture = shading.append_child("diffuse").append_child("texture");
                texture.append_attribute("texture") = "sampler";
                texture.append_attribute("texcoord") = "UV0";
            } else {
                colour("diffuse", glm::vec4(glm::vec3(material.baseColour), 1));
            }
            child(shading.append_child("transparency"), "float", fmt::format("{}", material.baseColour.a));
            auto target = withId(materials, "material", fmt::format("material-{}", m));
            target.append_attribute("name") = xmlText(material.name).c_str();
            target.append_child("instance_effect").append_attribute("url") =
                fmt::format("#effect-{}", m).c_str();
        }
    }

    void writeGeometries() {
        auto library = root_.append_child("library_geometries");
        std::vector<char> shown(model_.meshes.size(), 0);
        for (const Node& node : model_.nodes)
            if (node.mesh >= 0 && node.visible) shown[node.mesh] = 1;
        for (std::size_t i = 0; i < model_.meshes.size(); ++i) {
            if (!shown[i]) continue;
            const Mesh& own = *model_.meshes[i];
            const std::string id = fmt::format("mesh-{}", i);
            auto geometry = withId(library, "geometry", id);
            geometry.append_attribute("name") = xmlText(own.name.empty() ? id : own.name).c_str();
            auto mesh = geometry.append_child("mesh");
            addFloats(mesh, id + "-positions", numbersOf(own.positions), {"X", "Y", "Z"});
            if (!own.normals.empty())
                addFloats(mesh, id + "-normals", numbersOf(own.normals), {"X", "Y", "Z"});
            for (std::size_t s = 0; s < own.uvSets.size(); ++s) {
                auto flipped = own.uvSets[s]; // COLLADA's origin is bottom left
                for (glm::vec2& uv : flipped) uv.y = 1 - uv.y;
                addFloats(mesh, fmt::format("{}-uv{}", id, s), numbersOf(flipped), {"S", "T"});
            }
            if (!own.colours.empty())
                addFloats(mesh, id + "-colours", numbersOf(own.colours), {"R", "G", "B", "A"});
            addInput(withId(mesh, "vertices", id + "-vertices"), "POSITION", id + "-positions");
            for (const MaterialRun& run : own.runs) {
                if (run.triangleCount == 0) continue;
                auto triangles = mesh.append_child("triangles");
                triangles.append_attribute("count") = run.triangleCount;
                if (run.material >= 0)
                    triangles.append_attribute("material") = fmt::format("material-{}", run.material).c_str();
                addInput(triangles, "VERTEX", id + "-vertices", 0);
                if (!own.normals.empty()) addInput(triangles, "NORMAL", id + "-normals", 0);
                for (std::size_t s = 0; s < own.uvSets.size(); ++s)
                    addInput(triangles, "TEXCOORD", fmt::format("{}-uv{}", id, s), 0, int(s));
                if (!own.colours.empty()) addInput(triangles, "COLOR", id + "-colours", 0);
                WriteBuffer text;
                text.reserve(std::size_t(run.triangleCount) * 18);
                for (std::size_t c = 3 * std::size_t(run.firstTriangle);
                     c < 3 * (std::size_t(run.firstTriangle) + run.triangleCount); ++c)
                    text.number(own.indices[c]).text(" ");
                child(triangles, "p", text.take());
            }
        }
    }

    void writeScene() {
        auto scene = withId(root_.append_child("library_visual_scenes"), "visual_scene", "scene");
        scene.append_attribute("name") = xmlText(model_.name).c_str();
        std::set<int> joints, moving;
        for (const Skin& skin : model_.skins) joints.insert(skin.joints.begin(), skin.joints.end());
        for (const auto& clip : model_.clips)
            for (const Channel& channel : clip->channels) moving.insert(channel.node);
        std::vector<pugi::xml_node> made(model_.nodes.size());
        UniqueNames boneNames; // readers bind by name
        for (std::size_t n = 0; n < model_.nodes.size(); ++n) {
            const Node& node = model_.nodes[n];
            made[n] = withId(node.parent >= 0 ? made[node.parent] : scene, "node", fmt::format("node-{}", n));
            const std::string name = xmlText(node.name);
            made[n].append_attribute("name") =
                (joints.contains(int(n)) ? boneNames.made(name) : name).c_str();
            if (joints.contains(int(n))) {
                made[n].append_attribute("sid") = fmt::format("node-{}", n).c_str();
                made[n].append_attribute("type") = "JOINT";
            }
            const glm::dmat4 local = node.parent >= 0 ? node.local : rootMatrix_ * node.local;
            if (local != glm::dmat4(1.0) || moving.contains(int(n)))
                child(made[n], "matrix", matrixText(local)).append_attribute("sid") = "matrix";
            if (node.mesh < 0 || !node.visible) continue;
            pugi::xml_node instance;
            if (hangsOnBones(model_, node)) {
                instance = made[n].append_child("instance_controller");
                instance.append_attribute("url") = ("#" + skinId(n)).c_str();
                child(instance, "skeleton", fmt::format("#node-{}", model_.skins[node.skin].joints[0]));
            } else {
                instance = made[n].append_child("instance_geometry");
                instance.append_attribute("url") = fmt::format("#mesh-{}", node.mesh).c_str();
            }
            pugi::xml_node technique;
            for (const MaterialRun& run : model_.meshes[node.mesh]->runs) {
                if (run.material < 0 || run.triangleCount == 0) continue;
                if (!technique)
                    technique = instance.append_child("bind_material").append_child("technique_common");
                const std::string symbol = fmt::format("material-{}", run.material);
                auto bind = technique.append_child("instance_material");
                bind.append_attribute("symbol") = symbol.c_str();
                bind.append_attribute("target") = ("#" + symbol).c_str();
                auto uv = bind.append_child("bind_vertex_input");
                uv.append_attribute("semantic") = "UV0";
                uv.append_attribute("input_semantic") = "TEXCOORD";
                uv.append_attribute("input_set") = 0;
            }
        }
        root_.append_child("scene").append_child("instance_visual_scene").append_attribute("url") = "#scene";
    }

    const Model model_;
    const WriteOptions& options_;
    WrittenPictures pictures_;
    glm::dmat4 rootMatrix_;
    pugi::xml_document document_;
    pugi::xml_node root_;
};

} // namespace

std::vector<OutFile> writeCollada(const Model& model, const WriteOptions& options,
                                  std::vector<std::string>* dropped) {
    if (dropped)
        for (std::string& what : droppedMotion(model)) dropped->push_back(std::move(what));
    return ColladaWriter(model, options).write();
}

} // namespace zl::formats
