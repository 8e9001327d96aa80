#include "core/formats/format.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/model/axes.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

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
    };
    return formats;
}

namespace {

/// Whether `holds(i)` for every i below `count`, asked in parallel.
bool holdsForAll(std::size_t count, const auto& holds) {
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_reduce(
        Range(0, count, 1 << 16), true,
        [&](const Range& range, bool all) {
            for (std::size_t i = range.begin(); all && i != range.end(); ++i) all = holds(i);
            return all;
        },
        std::logical_and());
}

const Format& find(const std::filesystem::path& path, bool toWrite) {
    std::string extension = lowerCase(path.extension().string());
    if (!extension.empty()) extension.erase(0, 1);
    std::string all;
    for (const Format& format : allFormats()) {
        if (toWrite ? !format.write : !format.read) continue;
        for (const std::string_view known : format.extensions) {
            if (known == extension) return format;
            all += fmt::format("{}{}", all.empty() ? "" : ", ", known);
        }
    }
    throw Error(extension.empty() ? std::string("has no file extension")
                                  : fmt::format("files ending in \".{}\" cannot be {}", extension,
                                                toWrite ? "written" : "read"),
                path.string(), fmt::format("Can {}: {}.", toWrite ? "write" : "read", all));
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

Mesh checkedMesh(Mesh mesh, std::vector<std::string>& warnings) {
    const std::size_t n = mesh.positions.size();
    const auto check = [&](std::size_t length, std::string_view what) {
        if (length != 0 && length != n)
            throw Error(fmt::format("has {} {} for {} corners", length, what, n), mesh.name,
                        "Export the model again.");
    };
    check(mesh.normals.size(), "normals");
    check(mesh.tangents.size(), "tangents");
    for (const auto& set : mesh.uvSets) check(set.size(), "UVs");
    check(mesh.colours.size(), "colours");
    check(mesh.joints.size(), "joints");
    check(mesh.weights.size(), "weights");
    for (const MorphTarget& morph : mesh.morphs) check(morph.positions.size(), "morph offsets");
    if (mesh.indices.size() % 3 != 0) throw Error("has indices that do not make whole triangles", mesh.name);

    const auto usable = [&](std::size_t i) {
        const glm::vec3& p = mesh.positions[i];
        return std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z);
    };
    const bool allUsable = holdsForAll(n, usable);
    std::size_t outOfRange = 0, notFinite = 0;
    if (!allUsable || !holdsForAll(mesh.indices.size(), [&](std::size_t i) { return mesh.indices[i] < n; })) {
        const auto materials = triangleMaterials(mesh);
        std::vector<std::uint32_t> indices;
        std::vector<int> kept;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            const std::uint32_t* c = &mesh.indices[3 * t];
            if (c[0] >= n || c[1] >= n || c[2] >= n) {
                ++outOfRange;
            } else if (!usable(c[0]) || !usable(c[1]) || !usable(c[2])) {
                ++notFinite;
            } else {
                indices.insert(indices.end(), c, c + 3);
                kept.push_back(materials[t]);
            }
        }
        std::vector<std::uint32_t> keep, newIndex(n, ~0u);
        for (std::uint32_t i = 0; i < n; ++i)
            if (usable(i)) {
                newIndex[i] = static_cast<std::uint32_t>(keep.size());
                keep.push_back(i);
            }
        for (std::uint32_t& i : indices) i = newIndex[i];
        mesh = withVertices(mesh, keep, std::move(indices), kept);
    }
    if (outOfRange > 0)
        warnings.push_back(
            fmt::format("{} refer to corners that are not in the file and were left out",
                        showCount(static_cast<long long>(outOfRange), "triangle", "triangles")));
    if (notFinite > 0)
        warnings.push_back(
            fmt::format("{} with corners that are not numbers (NaN or infinite) were left out",
                        showCount(static_cast<long long>(notFinite), "triangle", "triangles")));
    if (!allUsable && notFinite == 0)
        warnings.emplace_back("corners that are not numbers (NaN or infinite) were left out");

    std::uint32_t covered = 0;
    for (const MeshPart& part : mesh.parts)
        covered += part.firstTriangle == covered ? part.triangleCount : 1u << 31;
    if (covered != mesh.triangleCount())
        mesh.parts = {{0, static_cast<std::uint32_t>(mesh.triangleCount()),
                       mesh.parts.empty() ? -1 : mesh.parts[0].material}};
    return mesh;
}

Model readModel(const std::filesystem::path& path, const Progress& progress) {
    const Format& format = formatToRead(path);
    Model model = format.read(path, progress);
    model.format = format.id;
    if (model.name.empty()) model.name = path.stem().string();
    for (auto& mesh : model.meshes) mesh = std::make_shared<const Mesh>(checkedMesh(*mesh, model.warnings));
    for (std::size_t i = 0; i < model.nodes.size(); ++i)
        if (model.nodes[i].name.empty()) model.nodes[i].name = fmt::format("{}-{}", model.name, i + 1);
    for (std::size_t i = 0; i < model.materials.size(); ++i)
        if (model.materials[i].name.empty()) model.materials[i].name = fmt::format("material-{}", i + 1);
    if (triangleCount(model) == 0)
        model.warnings.push_back(
            vertexCount(model) > 0 ? "the file holds points but no triangles; make a surface from them first"
                                   : "the file holds no triangles");
    if (std::ranges::find(model.filesRead, path) == model.filesRead.end())
        model.filesRead.insert(model.filesRead.begin(), path);
    progress.report(1);
    return model;
}

} // namespace zl::formats
