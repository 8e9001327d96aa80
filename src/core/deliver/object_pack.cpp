#include "core/deliver/object_pack.h"

#include "core/deliver/placed_for.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/formats/written_pictures.h"
#include "core/model/used_only.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <set>

namespace zl::deliver {

namespace {

/// One object of the model alone, its corners taken through `toFile`, its pictures still there.
Model alone(const Model& model, int node, const glm::dmat4& toFile) {
    Model out;
    out.name = model.nodes[node].name;
    out.materials = model.materials;
    out.images = model.images;
    out.nodes.push_back({model.nodes[node].name, -1, glm::dmat4(1.0), 0});
    out.meshes.push_back(
        std::make_shared<const Mesh>(geometry::transformed(*model.meshes[model.nodes[node].mesh], toFile)));
    return out;
}

} // namespace

std::vector<OutFile> ObjectPack::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    const bool asObj = format == Format::Obj;
    const Model source = withNormalsAdded(model);
    formats::WriteOptions write = writeOptionsFor(sheet, {});
    if (!asObj) write.metresPerUnit = 1;
    const glm::dmat4 toFile = formats::worldToFile(write);
    const auto world = worldMatrices(source);
    std::vector<OutFile> files;
    std::set<std::string> taken;
    nlohmann::ordered_json about{{"format", "object-pack"},
                                 {"version", 1},
                                 {"name", labels.name},
                                 {"unitMetres", write.metresPerUnit},
                                 {"files", asObj ? "obj" : "glb"},
                                 {"objects", nlohmann::json::array()},
                                 {"credit", labels.credit}};
    const formats::WrittenPictures pictures = formats::writtenPictures(source, "pictures/");
    for (int n = 0; n < int(source.nodes.size()); ++n) {
        if (source.nodes[n].mesh < 0 || source.meshes[source.nodes[n].mesh]->indices.empty()) continue;
        progress.report(double(n) / source.nodes.size(), "writing " + source.nodes[n].name);
        Model object = alone(source, n, toFile * world[n]);
        const std::string base = fileNameFrom(object.name);
        std::string name = base;
        for (int k = 2; !taken.insert(name).second; ++k) name = fmt::format("{}-{}", base, k);
        std::string picture;
        for (const int image : usedImages(object))
            if (picture.empty() && pictures.names.contains(image)) picture = pictures.names.at(image);
        nlohmann::ordered_json entry{{"name", object.name}, {"picture", picture}};
        if (asObj) {
            auto written = formats::writeObj(object, {name}, nullptr);
            // The pictures lie in their own folder, once for the pack.
            for (OutFile& file : written) {
                if (!file.name.ends_with(".obj") && !file.name.ends_with(".mtl")) continue;
                if (file.name.ends_with(".mtl"))
                    for (const auto& own : formats::writtenPictures(object).names) {
                        const std::string from = " " + own.second + "\n",
                                          to = " " + pictures.names.at(own.first) + "\n";
                        for (std::size_t at = 0; (at = file.bytes.find(from, at)) != std::string::npos;
                             at += to.size())
                            file.bytes.replace(at, from.size(), to);
                    }
                files.push_back(std::move(file));
            }
            entry["file"] = name + ".obj";
        } else {
            // Pictures are not held in the file: the site takes them from pictures/ and links them by name.
            const Model bare = withoutPictures(withUsedMaterialsOnly(std::move(object)));
            files.push_back(formats::writeGlb(bare, {name}, nullptr)[0]);
            entry["file"] = name + ".glb";
        }
        about["objects"].push_back(entry);
    }
    files.insert(files.end(), pictures.files.begin(), pictures.files.end());
    files.push_back({"pack.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
