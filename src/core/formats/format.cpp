#include "core/formats/format.h"

#include "core/formats/material_settings.h"
#include "core/formats/mend_model.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/words.h"
#include "core/model/axes.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::formats {

std::span<const Format> allFormats() {
    using enum Aspect;
    const auto metresYUp = [](WriteOptions& options) {
        options.metresPerUnit = 1;
        options.up = Up::Y;
    };
    static const Aspects rig{Bones, Clips, Morphs};
    const auto and_ = [](Aspects set, std::initializer_list<Aspect> more) {
        for (const Aspect aspect : more) set.add(aspect);
        return set;
    };
    // Where a writer has no word for UV placement, it goes into the UVs themselves: UvPlacement is lost as a
    // setting, and the picture still lies right.
    static const std::vector<Format> formats{
        {"obj", "Wavefront OBJ", {"obj"}, readObj, writeObj, and_(rig, {Hierarchy, UvPlacement}), {}, false},
        {"stl",
         "STL",
         {"stl"},
         readStl,
         writeStl,
         and_(rig, {Objects, Names, Hierarchy, Materials, Pictures, Uvs, UvPlacement, Normals, Colours}),
         {},
         false},
        {"ply",
         "PLY",
         {"ply"},
         readPly,
         writePly,
         and_(rig, {Objects, Names, Hierarchy, Materials, Pictures, UvPlacement}),
         {},
         false},
        {"gltf", "glTF", {"glb", "gltf"}, readGltf, nullptr},
        {"glb", "GLB", {"glb"}, nullptr, writeGlb, {}, {}, true, metresYUp},
        {"vrm", "VRM avatar", {"vrm"}, readGltf, writeVrm, {}, {}, true, metresYUp},
        {"dae", "COLLADA", {"dae"}, readThroughAssimp, writeCollada, {Morphs, UvPlacement}},
        {"fbx", "FBX", {"fbx"}, readThroughAssimp, nullptr},
        {"x3d",
         "X3D",
         {"x3d"},
         readThroughAssimp,
         writeX3d,
         and_(rig, {Hierarchy, UvPlacement}),
         {Materials, Pictures},
         true,
         metresYUp},
        {"3mf",
         "3MF",
         {"3mf"},
         readThroughAssimp,
         write3mf,
         and_(rig, {Hierarchy, Pictures, Uvs, UvPlacement, Normals, Colours}),
         {},
         true,
         fix3mfFrame},
        {"off", "OFF", {"off"}, readThroughAssimp, nullptr},
        {"amf", "AMF", {"amf"}, readThroughAssimp, nullptr},
        {"level",
         "Level text",
         {"lamplevel"},
         readLevelText,
         writeLevelText,
         and_(rig, {Hierarchy, UvPlacement, Colours})},
        {"xml", "Hull of blocks or scene of solids", {"xml"}, readXml, nullptr},
        {"row-mesh", "Geometry of a row package", {"rowmesh"}, readRowMesh, nullptr},
    };
    return formats;
}

namespace {

/// By extension; null when no format has it.
const Format* knows(const std::filesystem::path& path, bool toWrite) {
    const std::string extension = lowerCase(path.extension().string());
    if (extension.empty()) return nullptr;
    for (const Format& format : allFormats())
        if ((toWrite ? format.write != nullptr : format.read != nullptr) &&
            std::ranges::find(format.extensions, std::string_view(extension).substr(1)) !=
                format.extensions.end())
            return &format;
    return nullptr;
}

/// A file that is an archive is no model by itself: what helps is to name one in it.
void refuseArchive(const std::filesystem::path& path) {
    std::string inside;
    try {
        const auto held = files::filesIn(path);
        for (const files::Entry& entry : held->list())
            if (inside.empty() && knows(entry.path, false)) inside = (path / entry.path).string();
    } catch (const Error&) {
        return;
    }
    if (!inside.empty())
        throw Error("is an archive", path.string(),
                    fmt::format("Name a model in it, such as \"{}\".", inside));
}

const Format& find(const std::filesystem::path& path, bool toWrite) {
    if (const Format* format = knows(path, toWrite)) return *format;
    std::string extension = lowerCase(path.extension().string());
    if (!extension.empty()) extension.erase(0, 1);
    std::vector<std::string_view> all;
    for (const Format& format : allFormats()) {
        if (toWrite ? !format.write : !format.read) continue;
        all.insert(all.end(), format.extensions.begin(), format.extensions.end());
    }
    throw Error(extension.empty() ? std::string("has no file extension")
                                  : fmt::format("files ending in \".{}\" cannot be {}", extension,
                                                toWrite ? "written" : "read"),
                path.string(), fmt::format("Can {}: {}.", toWrite ? "write" : "read", inARow(all)));
}

} // namespace

const Format& formatToRead(const std::filesystem::path& path) {
    return find(path, false);
}
const Format& formatToWrite(const std::filesystem::path& path) {
    return find(path, true);
}

WriteOptions inFrameOf(const Format& format, WriteOptions options) {
    if (format.fixFrame) format.fixFrame(options);
    return options;
}

const Format* formatWithId(std::string_view id) {
    for (const Format& format : allFormats())
        if (format.id == id) return &format;
    return nullptr;
}

glm::dmat4 worldToFile(const WriteOptions& options) {
    const std::string_view front = options.front.empty() ? usualFront(options.up) : options.front;
    return glm::scale(glm::dmat4(1.0), glm::dvec3(1 / options.metresPerUnit)) *
           worldToAxes(options.up, front);
}

Model readModel(const std::filesystem::path& path, const Progress& progress) {
    if (!knows(path, false)) refuseArchive(path);
    const Format& format = formatToRead(path);
    files::SourceFile source(files::addressOf(path), progress);
    Model model = format.read(source, progress);
    model.format = format.id;
    if (model.name.empty()) model.name = path.stem().string();
    for (std::size_t i = 0; i < model.nodes.size(); ++i)
        if (model.nodes[i].name.empty()) model.nodes[i].name = fmt::format("{}-{}", model.name, i + 1);
    for (std::size_t i = 0; i < model.materials.size(); ++i)
        if (model.materials[i].name.empty()) model.materials[i].name = fmt::format("material-{}", i + 1);
    readSettingsBeside(source, model);
    try {
        mendModel(model);
    } catch (const Error& error) {
        throw Error(error.where().empty() ? error.what()
                                          : fmt::format("\"{}\" {}", error.where(), error.what()),
                    path.string(), error.mend());
    }
    if (triangleCount(model) == 0)
        model.warnings.push_back(
            vertexCount(model) > 0 ? "the file holds points but no triangles; make a surface from them first"
                                   : "the file holds no triangles");
    // A reader that worked in a process of its own has its list in the model.
    for (const auto& file : source.restsOn())
        if (std::ranges::find(model.files, file) == model.files.end()) model.files.push_back(file);
    progress.report(1);
    return model;
}

std::vector<OutFile> writeModel(const Format& format, const Model& model, const WriteOptions& options,
                                std::vector<std::string>* dropped) {
    auto files = format.write(model, options, dropped);
    if (!dropped) return files;
    if (model.avatar && format.write != writeVrm)
        dropped->emplace_back("the avatar's set-up (VRM files keep it)");
    const bool keepsWays = format.write == writeGlb || format.write == writeVrm;
    if (!keepsWays &&
        std::ranges::any_of(model.clips, [](const auto& clip) { return clip->way != glm::dvec3(0); }))
        dropped->emplace_back(
            "the ways that clips went before they stayed on the spot (GLB files keep them)");
    return files;
}

} // namespace zl::formats
