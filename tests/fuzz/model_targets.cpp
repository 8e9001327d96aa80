// Models, pictures and archives of others, as they are brought in.
#include "fuzz/helpers.h"
#include "fuzz/targets.h"

#include "core/base/error.h"
#include "core/catalogue/catalogue.h"
#include "core/files/contents.h"
#include "core/files/files.h"
#include "core/files/safe_name.h"
#include "core/formats/format.h"
#include "core/formats/material_settings.h"
#include "core/package/make_mine.h"
#include "core/package/reference_check.h"
#include "core/package/references.h"
#include "core/package/tokens.h"
#include "core/texture/picture_file.h"
#include "standins/house/row_file.h"

namespace fuzz {

using namespace zl;

namespace models {

namespace {

template <const char* extension>
void reader(std::string_view bytes) {
    const Model model = formats::readModel(written(std::string("x.") + extension, bytes));
    lookThrough(model);
}

constexpr char xml[] = "xml", obj[] = "obj", stl[] = "stl", ply[] = "ply", glb[] = "glb", gltf[] = "gltf",
               level[] = "lamplevel", vrm[] = "vrm", archive[] = "zip", package[] = "sqlar",
               rowMesh[] = "rowmesh";

void mtl(std::string_view bytes) {
    written("x.mtl", bytes);
    const Model model =
        formats::readModel(written("m.obj", "mtllib x.mtl\nusemtl a\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    lookThrough(model);
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
            for (const auto& group : standins::house::groupsOf(*resource.bytes, problem))
                lookThrough(group.shape);
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

} // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> all{{"obj", reader<obj>},
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
                                         {"archive", container<archive>},
                                         {"package", container<package>},
                                         {"settings", settings},
                                         {"hull", reader<xml>}};
    return all;
}

} // namespace models

} // namespace fuzz
