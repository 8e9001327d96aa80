#include "core/deliver/row_package.h"

#include "core/deliver/placed_for.h"

#include "core/base/hash.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/unique_names.h"
#include "core/files/address.h"
#include "core/files/resource_files.h"
#include "core/files/terms.h"
#include "core/formats/row_material.h"
#include "core/formats/row_mesh.h"
#include "core/formats/written_pictures.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"
#include "core/motion/pose.h"
#include "core/package/make_mine.h"
#include "core/package/put_geometry.h"
#include "core/package/reference_check.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl::deliver {

namespace {

using files::ResourceKey;
using files::ResourceKind;
using package::Package;

/// The item that a model's source is the geometry of; nothing for any other source.
struct Origin {
    std::filesystem::path file;
    ResourceKey geometry;
};
std::optional<Origin> originOf(const std::filesystem::path& source) {
    const files::Address address = files::addressOf(source);
    if (address.inside.empty() || !lowerCase(address.inside).ends_with(".rowmesh") ||
        !files::isSqlite(address.file))
        return std::nullopt;
    const files::ResourceFiles held(address.file, files::termsOf(address.file).limits);
    const auto key = held.keyAt(address.inside);
    return key ? std::optional(Origin{address.file, *key}) : std::nullopt;
}

/// Resources of an item that is made from nothing.
class NewItem {
public:
    NewItem(const std::string& name, const std::string& maker) : name_(name), maker_(maker) {}

    /// Under `wanted`, or with a number behind it where that is taken.
    ResourceKey add(ResourceKind kind, const std::string& wanted, std::string bytes) {
        const std::string name = once_[std::uint32_t(kind)].made(wanted);
        const Hash hash = hashText(fmt::format("{}\n{}\n{}\n{}", maker_, name_, std::uint32_t(kind), name));
        const ResourceKey key{std::uint32_t(kind), 0, hash | std::uint64_t(1) << 63};
        package_.resources.push_back({key, name, std::make_shared<const std::string>(std::move(bytes))});
        return key;
    }

    /// An entry and a pose for each clip: how each bone that the clip turns stands at its start, as x, y, z,
    /// w.
    /// Throws Refused for a bone that the platform's figures have not.
    Package poses(const Model& model, const platform::Sheet& sheet) {
        for (const auto& clip : model.clips) {
            nlohmann::ordered_json bones = nlohmann::ordered_json::object();
            for (const Channel& channel : clip->channels) {
                if (channel.target != Channel::Target::Rotation) continue;
                const auto turn = motion::valueAt(channel, 0);
                if (turn.size() != 4) continue;
                const std::string& bone = model.nodes[std::size_t(channel.node)].name;
                const auto& known = sheet.figureBones;
                if (!known.empty() && std::ranges::find(known, bone) == known.end())
                    throw Refused(
                        fmt::format("turns \"{}\", a bone that {}'s figures have not", bone, sheet.name),
                        clip->name, "Pose the platform's own figure, or rename the bones as it has them.");
                const glm::vec4 four(turn[0], turn[1], turn[2], turn[3]);
                const float length = glm::length(four);
                const glm::vec4 whole = length > 1e-6f ? four / length : glm::vec4(0, 0, 0, 1);
                bones[bone] = {whole.x, whole.y, whole.z, whole.w};
            }
            const std::string called = fmt::format("{}-{}", name_, fileNameFrom(clip->name));
            const auto pose =
                add(ResourceKind::Pose, called,
                    jsonText(nlohmann::ordered_json{{"name", called}, {"bones", bones}}, 2) + "\n");
            const nlohmann::ordered_json about{{"name", called},
                                               {"title", clip->name},
                                               {"kind", "pose"},
                                               {"maker", maker_},
                                               {"pose", textOf(pose)}};
            add(ResourceKind::Entry, called, jsonText(about, 2) + "\n");
        }
        return std::move(package_);
    }

    Package made(const Model& model) {
        const auto written = formats::writtenPictures(model);
        std::map<int, std::string> pictures; // keys as text, by image
        for (const auto& [image, file] : written.names) {
            const auto bytes = std::ranges::find(written.files, file, &OutFile::name);
            if (bytes != written.files.end())
                pictures[image] = textOf(add(
                    ResourceKind::Picture,
                    fmt::format("{}-{}", name_, fileNameFrom(std::filesystem::path(file).stem().string())),
                    bytes->bytes));
        }
        Mesh mesh = geometry::flattened(model);
        if (mesh.normals.empty()) mesh = geometry::withNormals(mesh);
        const SourceFrame game{unitNamed("m"), Up::Z, false, false}; // as the game's own items
        std::vector<formats::RowGroup> groups;
        std::map<int, ResourceKey> known;
        for (const MaterialRun& run : mesh.runs) {
            const Material material =
                run.material < 0 ? Material{.name = "plain"} : model.materials[std::size_t(run.material)];
            std::array<std::string, pictureRoles> keys;
            for (const PictureRole role : allPictureRoles)
                if (const auto picture = pictures.find(material.image(role)); picture != pictures.end())
                    keys[std::size_t(role)] = picture->second;
            const std::string called = fmt::format("{}-{}", name_, fileNameFrom(material.name));
            if (!known.contains(run.material))
                known[run.material] =
                    add(ResourceKind::Material, called, formats::rowMaterialText(material, keys));
            groups.push_back({called, known[run.material], run.firstTriangle, run.triangleCount});
        }
        const auto shape =
            add(ResourceKind::Geometry, name_,
                formats::rowMeshBytes(geometry::transformed(mesh, glm::inverse(game.toMetres())), game.up,
                                      groups));
        render::SnapshotOptions look;
        look.width = 240, look.height = 132, look.samples = 9;
        const auto thumbnail = add(ResourceKind::Picture, name_ + "-thumbnail",
                                   texture::encodePng(render::snapshot(model, look), false));
        const nlohmann::ordered_json about{{"name", name_},
                                           {"title", name_},
                                           {"kind", "loose"},
                                           {"maker", maker_},
                                           {"geometry", textOf(shape)},
                                           {"thumbnail", textOf(thumbnail)}};
        add(ResourceKind::Entry, name_, jsonText(about, 2) + "\n");
        return std::move(package_);
    }

private:
    std::string name_, maker_;
    std::map<std::uint32_t, UniqueNames> once_; ///< by kind
    Package package_;
};

/// The packages that lie beside a file, itself included; catalogues are too large to carry along.
std::vector<OutFile> neighboursOf(const std::filesystem::path& file) {
    constexpr std::size_t most = 20;
    constexpr std::uintmax_t mostBytes = 32u << 20;
    std::vector<OutFile> out;
    std::error_code error;
    std::vector<std::filesystem::path> found;
    for (const auto& entry : std::filesystem::directory_iterator(file.parent_path(), error))
        if (lowerCase(entry.path().extension().string()) == ".rowpackage" &&
            entry.file_size(error) < mostBytes)
            found.push_back(entry.path());
    std::ranges::sort(found);
    for (const auto& path : found)
        if (out.size() < most) out.push_back({"neighbours/" + path.filename().string(), readText(path)});
    return out;
}

} // namespace

std::vector<OutFile> RowPackage::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    package::Mine mine{called.empty() ? fileNameFrom(labels.name) : called, maker.empty() ? "me" : maker};
    for (const platform::Prefix& prefix : sheet.prefixes) mine.prefixes.push_back(prefix.code);
    std::vector<OutFile> files;
    Package made;
    if (what == What::Poses) {
        if (model.clips.empty())
            throw Refused("it has no pose and no clip", labels.name, "Add the step Pose.");
        made = NewItem(mine.name, mine.maker).poses(model, sheet);
    } else if (const auto origin = originOf(labels.source)) {
        progress.report(0.1, "reading the original");
        const auto limits = files::termsOf(origin->file).limits;
        Package original = package::readItem(origin->file, origin->geometry, limits, progress.silent());
        const auto index = indexOf(original);
        package::Resource& shape = *original.resource(origin->geometry);
        shape.bytes = std::make_shared<const std::string>(
            package::withGeometryOf(model, *shape.bytes, original, labels.name));
        progress.report(0.4, "giving new names");
        const auto others = package::indicesBeside(origin->file, progress.silent());
        made = makeMine(original, mine, numbersOf(others)).package;
        demandClean(checkReferences(made, others, &index));
        if (neighbours) files = neighboursOf(origin->file);
    } else {
        progress.report(0.1, "making a package");
        made = NewItem(mine.name, mine.maker).made(model);
    }
    made.maker = mine.maker;
    made.credit = labels.credit;
    files.insert(files.begin(), {mine.name + ".rowpackage", bytesOf(made)});
    return files;
}

} // namespace zl::deliver
