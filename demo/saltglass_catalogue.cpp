// The Saltglass catalogue: sixty items as resources of a game that refer to one another, and as many more
// entries as asked; a package of one item, and somebody else's copy of it.
#include "demo_data.h"
#include "saltglass_items.h"

#include "core/base/hash.h"
#include "core/base/json_text.h"
#include "core/catalogue/catalogue.h"
#include "core/formats/row_material.h"
#include "core/formats/row_mesh.h"
#include "core/geometry/world.h"
#include "core/package/make_mine.h"
#include "core/package/put_geometry.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/formats/format.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>

namespace zl::demo {

namespace {

using files::ResourceKey;
using files::ResourceKind;

/// The game's own numbers have no highest bit; that is for people's.
ResourceKey keyOf(ResourceKind kind, const std::string& name) {
    const Hash hash = hashText(fmt::format("saltglass {} {}", int(kind), name));
    return {std::uint32_t(kind), 0, hash & ~(std::uint64_t(1) << 63)};
}

std::string pictureName(const Model& model, int material) {
    const int image = model.materials[std::size_t(material)].image(PictureRole::Colour);
    const std::string file = model.images[std::size_t(image)]->name;
    return file.substr(0, file.rfind('.'));
}

constexpr std::array<const char*, 5> materialWords{"wood", "iron", "cloth", "fruit", "glass"};

Model harbourItem(const Item& item) {
    static const Model harbour = withHarbourMaterials();
    Model model = harbour;
    Solids solids;
    item.make(solids);
    addNode(model, item.title, -1, glm::dmat4(1.0), solids.take(item.title));
    return model;
}

class Writer {
public:
    Writer() : harbour_(withHarbourMaterials()) {
        for (const int material : {Wood, Iron, Cloth, Fruit}) {
            const int image = harbour_.materials[std::size_t(material)].image(PictureRole::Colour);
            add(ResourceKind::Picture, pictureName(harbour_, material),
                harbour_.images[std::size_t(image)]->encoded);
        }
    }

    void add(const Item& item, std::int64_t number) {
        const std::string stem = item.code.substr(item.code.find_last_of('-') + 1);
        const Model model = harbourItem(item);
        const auto geometry = keyOf(ResourceKind::Geometry, item.code);
        const auto entry = keyOf(ResourceKind::Entry, item.code);
        const auto thumbnail = add(ResourceKind::Picture, stem + "-thumbnail", thumbnailOf(model));
        const auto words = add(ResourceKind::Text, stem + "-words", wordsOf(item, stem, geometry));
        add(ResourceKind::Geometry, stem, geometryOf(model, stem), geometry);
        nlohmann::ordered_json about{{"name", item.code},
                                     {"title", item.title},
                                     {"pack", item.pack},
                                     {"kind", item.bone.empty() ? "loose" : "worn"},
                                     {"place", item.place},
                                     {"bone", item.bone},
                                     {"maker", item.maker},
                                     {"geometry", textOf(geometry)},
                                     {"thumbnail", textOf(thumbnail)},
                                     {"words", textOf(words)}};
        add(ResourceKind::Entry, item.code, jsonText(about, 2) + "\n", entry);
        entries_.push_back(
            {.number = number,
             .code = item.code,
             .title = item.title,
             .pack = item.pack,
             .kind = item.bone.empty() ? "loose" : "worn",
             .place = item.place,
             .bone = item.bone,
             .maker = item.maker,
             .licence = item.maker.empty() ? "" : "CC BY-NC 4.0",
             .permission = item.maker.empty() ? "allowed" : "",
             .link = item.maker.empty() ? "" : "saltglass board, berth " + std::to_string(number),
             .added = 1'760'000'000 + (number * 7919 % 60) * 86'400,
             .thumbnail = thumbnail.number,
             .resource = entry.number});
    }

    std::vector<catalogue::Entry>& entries() { return entries_; }
    const package::Package& resources() const { return package_; }

private:
    ResourceKey add(ResourceKind kind, const std::string& name, std::string bytes, ResourceKey key = {}) {
        if (key.number == 0) key = keyOf(kind, name);
        if (!package_.resource(key))
            package_.resources.push_back({key, name, std::make_shared<const std::string>(std::move(bytes))});
        return key;
    }

    static std::string thumbnailOf(const Model& model) {
        render::SnapshotOptions options;
        options.width = 240, options.height = 132, options.samples = 9;
        return texture::encodePng(render::snapshot(model, options), false);
    }

    static std::string wordsOf(const Item& item, const std::string& stem, const ResourceKey& geometry) {
        return fmt::format("{}\nFrom the {}.\nGeometry {} is {}; pictures begin with {}-.\n", item.title,
                           item.pack, stem, textOf(geometry), stem);
    }

    /// The game keeps its geometry Z up, in groups by material, each material a resource of the item's own.
    std::string geometryOf(const Model& model, const std::string& stem) {
        const SourceFrame game{unitNamed("m"), Up::Z, false, false};
        const Mesh mesh = geometry::transformed(geometry::flattened(model), glm::inverse(game.toMetres()));
        std::vector<formats::RowGroup> groups;
        for (const MaterialRun& run : mesh.runs) {
            const std::string name = fmt::format("{}-{}", stem, materialWords[std::size_t(run.material)]);
            Material material = harbour_.materials[std::size_t(run.material)];
            material.name = name;
            std::array<std::string, pictureRoles> pictures;
            // By key, and the iron by kind and name, as older items of the game do.
            if (run.material != Glass) {
                const std::string picture = pictureName(harbour_, run.material);
                pictures[std::size_t(PictureRole::Colour)] =
                    run.material == Iron ? fmt::format("04@{}", picture)
                                         : textOf(keyOf(ResourceKind::Picture, picture));
            }
            groups.push_back({name,
                              add(ResourceKind::Material, name, formats::rowMaterialText(material, pictures)),
                              run.firstTriangle, run.triangleCount});
        }
        return formats::rowMeshBytes(mesh, game.up, groups);
    }

    Model harbour_;
    package::Package package_;
    std::vector<catalogue::Entry> entries_;
};

std::string lowerCaseFirst(std::string text) {
    if (!text.empty()) text[0] = char(std::tolower(static_cast<unsigned char>(text[0])));
    return text;
}

/// Entries beyond the sixty: other names for what they show.
void addMore(std::vector<catalogue::Entry>& entries, std::size_t more) {
    constexpr std::array<const char*, 12> looks{"Blue",   "Old",    "Tarred",  "Painted", "Broken", "Small",
                                                "Double", "Mended", "Harbour", "Winter",  "Gilded", "Salted"};
    constexpr std::array<const char*, 9> ofs{"the ferry",  "the loft",     "the lighthouse",
                                             "the pier",   "the cannery",  "the chapel",
                                             "the market", "the boatyard", "the island"};
    const std::size_t sixty = entries.size();
    for (std::size_t i = 0; i < more; ++i) {
        catalogue::Entry entry = entries[i % sixty];
        const auto* look = looks[i / sixty % looks.size()];
        const auto* of = ofs[i / sixty / looks.size() % ofs.size()];
        const std::size_t row = i / sixty / looks.size() / ofs.size() + 1;
        entry.number = std::int64_t(entries.size()) + 1;
        entry.title = fmt::format("{} {} of {}, no. {}", look, lowerCaseFirst(entry.title), of, row);
        entry.code += fmt::format("{}{}", look, i / sixty);
        entry.added += std::int64_t(i);
        entries.push_back(std::move(entry));
    }
}

} // namespace

std::vector<OutFile> saltglassCatalogue(std::size_t more) {
    Writer writer;
    std::int64_t number = 0;
    for (const Item& item : saltglassItems()) writer.add(item, ++number);
    addMore(writer.entries(), more);
    return {{more > 0 ? "saltglass-large.rowcatalogue" : "saltglass.rowcatalogue",
             catalogue::bytesOf(writer.entries(), writer.resources())}};
}

std::vector<OutFile> saltglassPackages() {
    Writer writer;
    const auto items = saltglassItems();
    const auto chosen = std::ranges::find(items, "grown-a-armLantern", &Item::code);
    writer.add(*chosen, 1);
    package::Package original = writer.resources();
    std::erase_if(original.resources, [](const package::Resource& r) {
        return r.name == "harbour-cloth" || r.name == "harbour-fruit" || r.name == "harbour-wood";
    });
    original.maker = "Thistledown Row";
    auto copy = package::makeMine(original, {"gilded-lantern", "Odd Fennel", {"grown-a-"}}).package;
    package::Resource& shape =
        *copy.resource(copy.first(ResourceKind::Geometry)->key); // its maker made it taller
    Model model = harbourItem(*chosen);
    model.placement = glm::scale(glm::dmat4(1.0), {1, 1.35, 1});
    for (std::size_t m = 0; m < model.materials.size(); ++m)
        model.materials[m].name = fmt::format("gilded-lantern-{}", materialWords[m]);
    shape.bytes = std::make_shared<const std::string>(
        package::withGeometryOf(model, *shape.bytes, copy, "gilded-lantern"));
    copy.credit = "after Storm lantern, Thistledown Row";
    return {{"storm-lantern.rowpackage", package::bytesOf(original)},
            {"gilded-lantern.rowpackage", package::bytesOf(copy)}};
}

} // namespace zl::demo
