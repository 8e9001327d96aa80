#pragma once
#include "core/base/file_set.h"
#include "core/formats/row_material.h"
#include "core/formats/row_mesh.h"
#include "core/package/package.h"
#include "core/texture/picture_file.h"
#include "support/shapes.h"

#include <sqlite3.h>

#include <fmt/format.h>

/// Row packages made by hand.
namespace rows {

using zl::files::ResourceKey;
using zl::files::ResourceKind;
using zl::package::Package;

inline ResourceKey key(ResourceKind kind, std::uint64_t number) {
    return {std::uint32_t(kind), 0, number};
}

inline void add(Package& package, ResourceKey key, const std::string& name, std::string bytes) {
    package.resources.push_back({key, name, std::make_shared<const std::string>(std::move(bytes))});
}

/// A box in the game's axes (Z up): 1 along X, 2 along Y, 3 up; its lower half wears the first group.
inline std::string boxGeometry(const std::vector<zl::formats::RowGroup>& groups) {
    zl::Mesh mesh = zl::geometry::boxMesh({0, 0, 0}, {1, 2, 3});
    if (mesh.normals.empty()) mesh.normals.assign(mesh.vertexCount(), {0, 0, 1});
    return zl::formats::rowMeshBytes(mesh, zl::Up::Z, groups);
}

/// "kid-appleBox": geometry of two groups, two materials, a picture named by key and by name, words, an
/// entry, and a resource of a kind that nobody knows.
inline Package appleBox() {
    Package p;
    const auto picture = key(ResourceKind::Picture, 0x1111), wood = key(ResourceKind::Material, 0x2222),
               lid = key(ResourceKind::Material, 0x3333), geometry = key(ResourceKind::Geometry, 0x4444),
               words = key(ResourceKind::Text, 0x5555), entry = key(ResourceKind::Entry, 0x6666);
    zl::Pixels red{2, 2, std::vector<std::uint8_t>(16, 200)};
    add(p, picture, "appleBox-red", zl::texture::encodePng(red));
    std::array<std::string, zl::pictureRoles> pictures;
    pictures[0] = textOf(picture);
    add(p, wood, "appleBox-wood", zl::formats::rowMaterialText({.name = "appleBox-wood"}, pictures));
    pictures[0] = "04@appleBox-red";
    add(p, lid, "appleBox-lid", zl::formats::rowMaterialText({.name = "appleBox-lid"}, pictures));
    add(p, geometry, "appleBox", boxGeometry({{"appleBox-wood", wood, 0, 6}, {"appleBox-lid", lid, 6, 6}}));
    add(p, words, "appleBox-words",
        fmt::format("An apple box.\nIts file is AppleBox.\nMade of {}; see appleBox-wood.\n",
                    textOf(geometry)));
    add(p, entry, "kid-appleBox",
        fmt::format(
            "{{\"name\": \"kid-appleBox\", \"title\": \"Apple box\", \"kind\": \"loose\",\n \"geometry\": "
            "\"{}\", \"words\": \"{}\"}}\n",
            textOf(geometry), textOf(words)));
    add(p, {77, 3, 0x7777}, "appleBox-sound", std::string("\x01\x02 sound \x00\xff", 11));
    return p;
}

inline void write(const std::filesystem::path& file, const Package& package) {
    zl::writeFile(file, bytesOf(package));
}

/// Any SQLite file.
inline void writeSql(const std::filesystem::path& file, const std::string& sql) {
    std::filesystem::remove(file);
    sqlite3* database = nullptr;
    sqlite3_open(file.c_str(), &database);
    char* problem = nullptr;
    if (sqlite3_exec(database, sql.c_str(), nullptr, nullptr, &problem) != SQLITE_OK)
        throw std::runtime_error(problem);
    sqlite3_close(database);
}

} // namespace rows
