// What is fed to what. One program holds all targets; libFuzzer's runner picks one by its name.
#include "fuzz/targets.h"

#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/base/text_template.h"
#include "core/catalogue/catalogue.h"
#include "core/files/contents.h"
#include "core/files/safe_name.h"
#include "core/files/files.h"
#include "core/formats/city_files.h"
#include "core/formats/format.h"
#include "core/formats/material_settings.h"
#include "core/geometry/solids.h"
#include "core/base/csv_table.h"
#include "core/install/journal.h"
#include "core/install/zip_records.h"
#include "core/model/promises.h"
#include "core/package/make_mine.h"
#include "core/package/reference_check.h"
#include "core/package/references.h"
#include "core/package/tokens.h"
#include "core/project/blocks_document.h"
#include "core/project/solids_document.h"
#include "core/formats/scene_file.h"
#include "core/solids/scene_model.h"
#include "standins/region/solid_shape.h"
#include "core/platform/game_log.h"
#include "core/platform/name_pattern.h"
#include "core/platform/sheet_text.h"
#include "core/project/project.h"
#include "core/selection/chosen.h"
#include "core/texture/picture_file.h"
#include "standins/circuit/car_settings.h"
#include "standins/city/object_file.h"
#include "standins/console/headers.h"
#include "standins/world/glb_tree.h"
#include "standins/house/row_file.h"
#include "standins/level/level_file.h"
#include "standins/site/glb_file.h"
#include "standins/slip/floating.h"
#include "standins/stand_in.h"
#include "standins/tunnel/compiler.h"
#include "standins/wardrobe/outfit_file.h"
#include "standins/world/obj_file.h"
#include "standins/world/collada_file.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <unistd.h>

namespace fuzz {

using namespace zl;

namespace {

/// A folder of this process for readers that take a path; in memory where there is such a place.
const std::filesystem::path& folder() {
    static const std::filesystem::path own = [] {
        const std::filesystem::path base = std::filesystem::is_directory("/dev/shm") ? "/dev/shm" : "/tmp";
        const auto path = base / ("zest-loom-fuzz-" + std::to_string(::getpid()));
        std::filesystem::create_directories(path);
        return path;
    }();
    return own;
}

/// Quicker than the program's own way, which flushes to the disk.
std::filesystem::path written(const std::string& name, std::string_view bytes) {
    const auto path = folder() / name;
    if (std::FILE* file = std::fopen(path.c_str(), "wb")) {
        std::fwrite(bytes.data(), 1, bytes.size(), file);
        std::fclose(file);
    }
    return path;
}

[[noreturn]] void complain(const std::string& what) {
    std::fprintf(stderr, "broken promise: %s\n", what.c_str());
    std::abort();
}

template <const char* extension>
void reader(std::string_view bytes) {
    const Model model = formats::readModel(written(std::string("x.") + extension, bytes));
    if (const std::string broken = brokenPromise(model); !broken.empty()) complain(broken);
}

constexpr char xml[] = "xml", obj[] = "obj", stl[] = "stl", ply[] = "ply", glb[] = "glb", gltf[] = "gltf",
               level[] = "lamplevel", vrm[] = "vrm", archive[] = "zip", package[] = "sqlar",
               rowMesh[] = "rowmesh";

void mtl(std::string_view bytes) {
    written("x.mtl", bytes);
    const Model model =
        formats::readModel(written("m.obj", "mtllib x.mtl\nusemtl a\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    if (const std::string broken = brokenPromise(model); !broken.empty()) complain(broken);
}

void project_(std::string_view bytes) {
    const auto project = project::load(written("x.zestloom", bytes));
    const auto again = project::fromJson(project::toJson(project), project.file);
    if (project::toJson(again) != project::toJson(project))
        complain("a project does not come back as it was");
}

void recipe_(std::string_view bytes) {
    const auto json = nlohmann::json::parse(bytes, nullptr, false);
    if (json.is_discarded()) return;
    const auto recipe = recipe::fromJson(json);
    if (recipe::fromJson(recipe::toJson(recipe)) != recipe) complain("a recipe does not come back as it was");
}

void sheet_(std::string_view bytes) {
    platform::readSheet(written("x.toml", bytes));
}

/// A template over a little of everything, in every escaping.
void template_(std::string_view bytes) {
    static const nlohmann::json data{{"name", "a \"b\" <c>"},
                                     {"objects", {{{"name", "x"}, {"first", true}}, {{"name", "y"}}}},
                                     {"file", {{"path", "a/b.c"}}}};
    const TextTemplate made(std::string(bytes), "x", {{"twice", "{{name}}{{name}}"}});
    for (const Escaping as : {Escaping::None, Escaping::Json, Escaping::Xml, Escaping::Csv, Escaping::Toml})
        if (made.filled(TemplateData(data, as), nullptr, 1 << 20).size() > 1 << 20)
            complain("a text is larger than the limit");
}

/// Text as a sheet that is changed in places: TOML stays TOML.
void sheetText_(std::string_view bytes) {
    platform::SheetText text{std::string(bytes)};
    const auto check = [&] { platform::SheetText{text.text()}; };
    text.set("unit", "metres", "2"), check();
    text.set("rule", 0, "most", "7"), check();
    text.erase("rule", 0, "label"), check();
    text.add("answer", "[[answer]]\npiece = \"a\"\nwhen = \"b\"\n"), check();
    text.remove("rule", 0), check();
}

/// Text as a game's log: a pattern made of any of its lines matches that line.
void gameLog(std::string_view bytes) {
    platform::Sheet sheet;
    sheet.log = {{"mesh '(.+)' has ([0-9]+)", "{1} has {2}, {9}"}};
    for (const auto& line : platform::readLog(bytes.substr(0, 4000), sheet))
        if (!platform::NamePattern(platform::patternFor(line.text, platform::changingIn(line.text)))
                 .found(line.text))
            complain("a line is not like itself");
}

void shape(const standins::world::Shape& shape) {
    for (const std::uint32_t index : shape.indices)
        if (index >= shape.positions.size()) complain("an index of a stand-in's shape is out of range");
}

/// Bytes as a picture, decoded where its claims are small enough to be worth the time.
void picture(std::string_view bytes) {
    const auto image = texture::pictureFromBytes("picture", std::string(bytes));
    if (std::int64_t(image->width) * image->height <= 1 << 20) texture::decode(*image);
}

/// Bytes as an archive or a package: listed, also what lies in archives within, and the small files in it
/// opened; locked ones with the seeds' key.
template <const char* extension>
void container(std::string_view bytes) {
    files::Limits limits;
    limits.bytes = limits.freeOfRatio = 1 << 20;
    static const auto key = [] {
        std::string letters = "tide";
        return files::Key::taking(letters);
    }();
    const files::Terms terms(limits, key);
    const auto path = written(std::string("x.") + extension, bytes);
    for (const files::Held& inside : files::contentsOf(path, terms).held) {
        const std::string safe = files::safePath(inside.path);
        if (files::normalPath(safe) != safe || files::safePath(safe) != safe) complain("a safe path is none");
    }
    const auto held = files::filesIn(path, terms);
    for (const files::Entry& entry : held->list()) {
        if (files::normalPath(entry.path) != entry.path) complain("a listed path is not in normal form");
        try {
            if (held->open(entry.path).size() > limits.bytes) complain("more bytes than the limit");
        } catch (const Error&) {
        }
    }
}

/// Bytes as a package of resources and as a catalogue: read, checked, copied under another name, taken for an
/// item.
void rowPackage(std::string_view bytes) {
    files::Limits limits;
    limits.bytes = 1 << 20;
    const auto path = written("x.rowpackage", bytes);
    try {
        const catalogue::Catalogue opened(path, limits);
        opened.find("a b");
        for (const auto& entry : opened.entries()) opened.thumbnail(entry);
    } catch (const Error&) {
    }
    const auto held = package::readPackage(path, limits);
    checkReferences(held, {});
    if (!held.resources.empty()) package::readItem(path, held.resources[0].key, limits);
    const auto index = indexOf(held);
    const auto copied = makeMine(held, {"fuzzed", "nobody", {"kid-"}});
    if (copied.package.resources.size() != held.resources.size()) complain("a copy has other resources");
    for (const auto& resource : copied.package.resources)
        if (resource.key.number >> 63 == 0) complain("a copy's number is the game's");
    checkReferences(copied.package, {}, &index);
    for (const auto& resource : held.resources)
        if (resource.key.is(package::ResourceKind::Geometry)) {
            std::string problem;
            for (const auto& group : standins::house::groupsOf(*resource.bytes, problem)) shape(group.shape);
        }
}

/// Text as a resource that names others: references lie within it, and names that are replaced are gone.
void rowText(std::string_view bytes) {
    package::Resource text{{1, 0, 1}, "words", std::make_shared<const std::string>(bytes)};
    std::size_t last = 0;
    for (const auto& reference : referencesIn(text)) {
        if (reference.at < last || reference.at + reference.size > bytes.size())
            complain("a reference lies outside");
        last = reference.at + reference.size;
    }
    for (const auto& value : package::stringValues(bytes))
        if (value.at + value.size > bytes.size()) complain("a value lies outside");
    package::Names names;
    names.add("lamp", "torch");
    names.add("lamp-post", "mast");
    if (!names.in(names.replacedIn(bytes)).empty()) complain("a name is left");
}

/// Text as a selection, made out on a small model.
void selection_(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto read = selection::fromJson(json);
    const auto again = selection::toJson(read);
    if (selection::toJson(selection::fromJson(again)) != again)
        complain("a selection is read otherwise again");
    Model model;
    model.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh({0, 0, 0}, {1, 1, 1})));
    model.nodes = {{"hull", -1, glm::dmat4(1.0), 0}, {"wheel", 0, glm::dmat4(1.0), 0}};
    selection::chosen(model, read);
}

void standInObj(std::string_view bytes) {
    shape(standins::world::readObjFile(written("s.obj", bytes)).shape);
}
void standInMtl(std::string_view bytes) {
    standins::world::readMaterialFile(written("s.mtl", bytes), "a");
}
void standInGlb(std::string_view bytes) {
    shape(standins::site::readGlbFile(std::string(bytes)).shape);
}
void standInCollada(std::string_view bytes) {
    for (const auto& part : standins::world::readColladaFile(std::string(bytes)).parts) shape(part.shape);
}
void standInLevel(std::string_view bytes) {
    for (const auto& object : standins::level::readLevelFile(std::string(bytes)).objects) shape(object.shape);
}

void standInCar(std::string_view bytes) {
    for (const auto& node : standins::world::readGlbTree(std::string(bytes)).nodes)
        for (const auto& surface : node.surfaces) shape(surface.shape);
}
void standInSettings(std::string_view bytes) {
    std::string problem;
    standins::circuit::readCarSettings(std::string(bytes), problem);
}
void standInOutfit(std::string_view bytes) {
    const std::string text(bytes);
    for (const auto& file :
         {standins::wardrobe::readGlbOutfit(text), standins::wardrobe::readTextOutfit(text)})
        for (const auto& object : file.objects) shape(object.shape);
}

/// Settings of materials as a table; what was read is written and read again.
void settings(std::string_view bytes) {
    const auto read = formats::settingsFrom(bytes, "x");
    std::vector<Material> materials;
    for (const auto& [name, values] : read) materials.push_back({.name = name, .settings = values});
    const std::string table = formats::settingsTable(materials);
    const auto again = table.empty() ? decltype(read)() : formats::settingsFrom(table, "y");
    for (const auto& [name, values] : read)
        if (!values.empty() && again.at(name) != values) complain("settings do not come back as they were");
}

void installed(std::string_view bytes) {
    std::filesystem::create_directories(folder() / "zest-loom-installed");
    written(install::journalPath("x"), bytes);
    const auto journal = install::readJournal(folder(), "x");
    if (!journal) complain("a journal that is there was not found");
    for (const auto* files : {&journal->files, &journal->originals, &journal->kept})
        for (const auto& [path, hash] : *files)
            if (std::filesystem::path(path).lexically_normal().string().starts_with("..") || path[0] == '/')
                complain("a journal leads out of the game");
}

void cityMesh(std::string_view bytes) {
    for (const auto& part : standins::city::readMesh(bytes).parts) shape(part.shape);
    const auto mesh = formats::readCityMesh(bytes, "x");
    if (formats::writeCityMesh(formats::readCityMesh(formats::writeCityMesh(mesh), "y")) !=
        formats::writeCityMesh(mesh))
        complain("a mesh does not come back as it was");
}

void cityPictures(std::string_view bytes) {
    standins::city::readPictures(bytes);
}

/// Both readers of bodies, ours and the city's.
void contactText(std::string_view bytes) {
    for (const auto& body : standins::city::readContact(bytes).bodies) {
        shape(body.shape);
        if (body.kinds.size() * 3 != body.shape.indices.size()) complain("faces without a kind of their own");
    }
    const auto file = formats::readContactFile(bytes, "x");
    for (const auto& body : file.bodies)
        for (const auto& face : body.faces) {
            if (face.kind >= int(body.kinds.size())) complain("a kind that there is not");
            for (const auto corner : face.corner)
                if (corner >= body.corners.size()) complain("a corner that there is not");
        }
}

/// A line added to whatever a table is, and taken out again.
void cityTable(std::string_view bytes) {
    const auto table = readCsv(bytes);
    const std::string line = csvLine(table, {{"name", "post, \"small\""}, {"x", "1.5"}});
    const std::string with = std::string(bytes) + csvAddition(table, line);
    const auto without = withoutLine(with, line);
    if (!line.empty() && bytes.find(line) == bytes.npos && (!without || *without != bytes))
        complain("a table is not as it was before a line came and went");
}

/// An entry put into whatever an archive is, and taken out again.
void zipRecords(std::string_view bytes) {
    install::ZipRecords records{std::string(bytes), "x.zip"};
    const std::string before = records.bytes();
    if (records.has("ours")) return;
    records.add({{"ours", "some text"}});
    if (install::ZipRecords(records.bytes(), "y.zip").contentOf("ours") != "some text")
        complain("an entry is not what was put in");
    records.remove("ours");
    if (records.bytes() != before) complain("an archive is not as it was before an entry came and went");
}

/// The prop's script, or its body beside a script that is fine, as the engine's compiler takes them.
template <const char* name>
void propText(std::string_view bytes) {
    const auto own = folder() / "prop";
    std::filesystem::create_directories(own);
    const auto write = [&](const char* to, std::string_view text) {
        if (std::FILE* file = std::fopen((own / to).c_str(), "wb")) {
            std::fwrite(text.data(), 1, text.size(), file);
            std::fclose(file);
        }
    };
    write("box.prop.txt", "prop box\nunit 0.02\ncredit Odd Fennel\nmesh box.mesh.txt\nbody box.body.txt\n"
                          "material plain colour 0.5 0.5 0.5\n");
    write("box.mesh.txt", "mesh 1\ncorner 0 0 0 0 0 1 0 0\ncorner 9 0 0 0 0 1 1 0\ncorner 0 9 0 0 0 1 0 1\n"
                          "face 0 1 2 plain\n");
    write("box.body.txt", "body 1\npiece surface wood\ncorner 0 0 0\ncorner 9 0 0\ncorner 0 9 0\n"
                          "corner 0 0 9\n");
    write(name, bytes);
    const auto compiled = standins::tunnel::compiledHere(own);
    for (const auto& part : compiled.prop.parts) shape(part.shape);
    for (const auto& piece : compiled.prop.pieces) shape(piece.shape);
}
constexpr char propScript[] = "box.prop.txt", propMesh[] = "box.mesh.txt", propBody[] = "box.body.txt";

/// The description that each stand-in reads first, with nothing else in the folder.
template <const char* name, const char* id>
void description(std::string_view bytes) {
    const auto own = folder() / id;
    std::filesystem::create_directories(own);
    const auto path = own / name;
    if (std::FILE* file = std::fopen(path.c_str(), "wb")) {
        std::fwrite(bytes.data(), 1, bytes.size(), file);
        std::fclose(file);
    }
    standins::standInNamed(id)->tryFolder(own);
}
constexpr char tableFile[] = "x.table.json", packFile[] = "pack.json", sceneFile[] = "x.scene.json",
               truckFile[] = "x.truck.json", carFile[] = "x.car.json", outfitFile[] = "x.outfit.json",
               circuit[] = "circuit", wardrobe[] = "wardrobe", table[] = "table", site[] = "site",
               levelId[] = "level", yard[] = "yard", assetFile[] = "x.asset.toml", shed[] = "shed",
               islandFile[] = "x.island.json", island[] = "island", thingFile[] = "x.thing.json",
               dressingRoom[] = "dressing-room", kartFile[] = "kart.x.kcb", track[] = "track",
               avatarFile[] = "x.vrm", mirror[] = "mirror", bundleFile[] = "x.bundle.zip", field[] = "field";

/// Headers are looked through before a compiler sees them; what passes holds no call and no string.
void consoleHeader(std::string_view bytes) {
    const std::string text(bytes);
    if (standins::console::notData(text, "pip")) return;
    std::string code; // without comments, in which anything may stand
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t comment = text.find("/*", at), end = text.find("*/", comment);
        code += text.substr(at, comment - at);
        at = comment == text.npos || end == text.npos ? text.size() : end + 2;
    }
    if (code.find('"') != std::string::npos && code.find("#include \"pip_names.h\"") == std::string::npos)
        complain("a string passed for data");
}

/// A hull as the slip reads it, with what it shows of it and how it floats.
void slipHull(std::string_view bytes) {
    const auto own = folder() / "hull";
    std::filesystem::create_directories(own);
    written("hull/x.hull.xml", bytes);
    standins::TryReport report;
    if (const auto hull = standins::slip::readHull(own, report)) {
        for (const bool strays : {false, true}) shape(standins::slip::shapeOf(*hull, 0, strays));
        if (!std::isfinite(standins::slip::floatingOf(*hull).draught)) complain("a draught is no number");
    }
}

/// A document of blocks, as a model and as text again.
void blocksDocument(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto document = project::BlocksDocument::read(json);
    if (const std::string broken = brokenPromise(document->model({}, {})); !broken.empty()) complain(broken);
    if (project::BlocksDocument::read(parsedJson(jsonText(document->toJson())))->toJson() !=
        document->toJson())
        complain("a document does not come back");
}

/// A scene of solids in XML, as a scene and as text again.
void sceneXml(std::string_view bytes) {
    const formats::SceneFile file = formats::readScene(bytes, "fuzz");
    const formats::SceneFile again =
        formats::readScene(formats::writeScene({"fuzz", file.scene, file.lit}, Up::Y, "+Z"), "again");
    if (again.scene != file.scene) complain("a scene does not come back");
    if (file.scene.solids.empty() || file.scene.solids.size() > 50) return;
    if (const std::string broken = brokenPromise(solids::modelOf(file.scene, "fuzz")); !broken.empty())
        complain(broken);
}

/// A document of solids in the same way.
void solidsDocument(std::string_view bytes) {
    const auto json = parsedJson(bytes);
    if (json.is_discarded()) return;
    const auto document = project::SolidsDocument::read(json);
    if (project::SolidsDocument::read(parsedJson(jsonText(document->toJson())))->toJson() !=
        document->toJson())
        complain("a document does not come back");
}

/// A solid as the region reads it, with what it shows of it.
void regionSolid(std::string_view bytes) {
    for (const auto& [face, shape] : standins::region::shapesOf(standins::region::readSolid(bytes)))
        for (const glm::vec3& at : shape.positions)
            if (!std::isfinite(at.x) || !std::isfinite(at.y) || !std::isfinite(at.z))
                complain("a corner is nowhere");
}

} // namespace

const std::vector<Target>& allTargets() {
    static const std::vector<Target> targets{{"obj", reader<obj>},
                                             {"mtl", mtl},
                                             {"stl", reader<stl>},
                                             {"ply", reader<ply>},
                                             {"glb", reader<glb>},
                                             {"vrm", reader<vrm>},
                                             {"row-mesh", reader<rowMesh>},
                                             {"row-package", rowPackage},
                                             {"row-text", rowText},
                                             {"gltf", reader<gltf>},
                                             {"level", reader<level>},
                                             {"picture", picture},
                                             {"selection", selection_},
                                             {"archive", container<archive>},
                                             {"package", container<package>},
                                             {"project", project_},
                                             {"recipe", recipe_},
                                             {"sheet", sheet_},
                                             {"template", template_},
                                             {"sheet-text", sheetText_},
                                             {"game-log", gameLog},
                                             {"stand-in-obj", standInObj},
                                             {"stand-in-mtl", standInMtl},
                                             {"stand-in-glb", standInGlb},
                                             {"stand-in-collada", standInCollada},
                                             {"stand-in-level", standInLevel},
                                             {"table-json", description<tableFile, table>},
                                             {"pack-json", description<packFile, site>},
                                             {"scene-json", description<sceneFile, levelId>},
                                             {"truck-json", description<truckFile, yard>},
                                             {"stand-in-car", standInCar},
                                             {"stand-in-settings", standInSettings},
                                             {"stand-in-outfit", standInOutfit},
                                             {"settings", settings},
                                             {"installed", installed},
                                             {"car-json", description<carFile, circuit>},
                                             {"outfit-json", description<outfitFile, wardrobe>},
                                             {"asset-toml", description<assetFile, shed>},
                                             {"island-json", description<islandFile, island>},
                                             {"thing-json", description<thingFile, dressingRoom>},
                                             {"kart", description<kartFile, track>},
                                             {"mirror", description<avatarFile, mirror>},
                                             {"city-mesh", cityMesh},
                                             {"city-pictures", cityPictures},
                                             {"contact", contactText},
                                             {"city-table", cityTable},
                                             {"zip-records", zipRecords},
                                             {"prop-script", propText<propScript>},
                                             {"prop-mesh", propText<propMesh>},
                                             {"prop-body", propText<propBody>},
                                             {"bundle", description<bundleFile, field>},
                                             {"console-header", consoleHeader},
                                             {"hull", reader<xml>},
                                             {"stand-in-hull", slipHull},
                                             {"blocks-document", blocksDocument},
                                             {"scene-xml", sceneXml},
                                             {"solids-document", solidsDocument},
                                             {"region-solid", regionSolid}};
    return targets;
}

} // namespace fuzz
