// A package of resources that refer to one another at random, under names that nobody would choose: read,
// copied, worn otherwise, put back, then damaged.
#include "answered.h"
#include "rough_model.h"

#include "core/base/file_set.h"
#include "core/files/resource_files.h"
#include "core/formats/format.h"
#include "core/formats/row_material.h"
#include "core/formats/row_mesh.h"
#include "core/geometry/world.h"
#include "core/model/model_bytes.h"
#include "core/package/group_pictures.h"
#include "core/package/make_mine.h"
#include "core/package/put_geometry.h"
#include "core/package/reference_check.h"
#include "core/texture/picture_file.h"

#include <algorithm>

using namespace zl;

namespace torture {

namespace {

using files::ResourceKey;
using files::ResourceKind;
using package::Package;

std::string roughWord(Dice& dice) {
    static constexpr const char* plain[] = {"lamp", "lampWood", "lamp-wood", "kid-lamp", "a", "LAMP"};
    return dice.chance(0.6) ? dice.of(plain) : roughName(dice);
}

/// A reference to something that is there or not, as texts have it.
std::string roughReference(const Package& package, Dice& dice) {
    if (package.resources.empty() || dice.chance(0.2))
        return files::textOf(ResourceKey{std::uint32_t(dice.below(9)), 0, dice.below(1u << 20)});
    const auto& to = dice.of(package.resources);
    if (dice.chance(0.5)) return files::textOf(to.key);
    return fmt::format("{:02x}@{}", to.key.kind, to.name);
}

std::string roughText(const Package& package, Dice& dice) {
    std::string out;
    for (int i = dice.between(0, 6); i-- > 0;) {
        const std::string word = dice.chance(0.5) ? roughReference(package, dice) : roughWord(dice);
        out += dice.chance(0.5) ? "{\"name\": \"" + word + "\"}\n" : word + ", ";
    }
    return out;
}

std::string geometryOf(const Model& model, const Package& package, Dice& dice) {
    Mesh flat = geometry::flattened(model);
    if (flat.vertexCount() > 20000 || flat.indices.empty()) return roughText(package, dice);
    if (flat.normals.empty()) flat.normals.assign(flat.vertexCount(), {0, 1, 0});
    const auto all = std::uint32_t(flat.triangleCount()), first = std::uint32_t(dice.below(all + 1));
    std::vector<formats::RowGroup> groups{{roughWord(dice), {}, 0, first},
                                          {roughWord(dice), {}, first, all - first}};
    for (auto& group : groups)
        if (!package.resources.empty() && dice.chance(0.7)) group.material = dice.of(package.resources).key;
    return formats::rowMeshBytes(flat, dice.chance(0.5) ? Up::Y : Up::Z, groups);
}

Package roughPackage(const Model& model, Dice& dice) {
    Package out;
    out.maker = roughName(dice);
    for (int i = dice.between(1, 9); i-- > 0;) {
        const ResourceKey key{std::uint32_t(dice.chance(0.1) ? 77 : 1 + dice.below(6)),
                              std::uint32_t(dice.below(2)),
                              dice.chance(0.1) ? 5 : 0x100000 + dice.below(1u << 30)};
        std::string bytes = roughText(out, dice);
        if (key.is(ResourceKind::Geometry)) bytes = geometryOf(model, out, dice);
        if (key.is(ResourceKind::Picture))
            bytes = texture::encodePng({2, 2, std::vector<std::uint8_t>(16, std::uint8_t(dice.below(256)))});
        if (key.is(ResourceKind::Material) && dice.chance(0.8)) {
            std::array<std::string, pictureRoles> pictures;
            for (std::string& picture : pictures)
                if (dice.chance(0.3)) picture = roughReference(out, dice);
            bytes = formats::rowMaterialText({.name = roughWord(dice)}, pictures);
        }
        out.resources.push_back(
            {key, roughWord(dice), std::make_shared<const std::string>(std::move(bytes))});
    }
    return out;
}

} // namespace

void roundOfPackage(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    const auto file = folder / "rough.rowpackage";
    const Package made = roughPackage(model, dice);
    if (!answered("writing a package", [&] { writeFile(file, bytesOf(made)); })) return; // a number twice
    Package read;
    if (!answered("reading a package", [&] { read = package::readPackage(file, {}); }))
        throw Failure("a package that was written cannot be read");
    if (read.resources.size() != made.resources.size())
        throw Failure("a package comes back with other resources");
    for (const auto& resource : made.resources) {
        const auto* back = read.resource(resource.key);
        if (!back || *back->bytes != *resource.bytes) throw Failure("a resource comes back otherwise");
    }
    answered("checking a package", [&] { checkReferences(read, package::indicesBeside(file)); });

    package::Copied copied;
    const package::Mine mine{dice.chance(0.7) ? "pear-box" : roughName(dice), roughName(dice), {"kid-"}};
    const auto index = indexOf(read);
    if (answered("making a package mine",
                 [&] { copied = makeMine(read, mine, package::numbersOf({index})); }) &&
        checkReferences(copied.package, {}, &index).isClean())
        for (const auto& resource : copied.package.resources)
            for (const auto& old : read.resources)
                if (const auto at = resource.bytes->find(textOf(old.key)); at != std::string::npos)
                    throw Failure(fmt::format("a copy that is called clean still names {} in a {}: \"{}\"",
                                              textOf(old.key), files::kindWord(resource.key.kind),
                                              resource.bytes->substr(at < 8 ? 0 : at - 8, 60)));

    for (const auto& resource : read.resources) {
        if (resource.key.is(ResourceKind::Material))
            answered("another picture", [&] { package::withColour(resource, {4, 0, dice.below(1000)}); });
        if (!resource.key.is(ResourceKind::Geometry)) continue;
        answered("the groups of a geometry", [&] { package::wornGroups(read, resource); });
        Model shape;
        const files::ResourceFiles held(file, {});
        const auto inside = held.find({}, textOf(resource.key));
        if (!inside) throw Failure("a geometry is not found by its number");
        if (!answered("reading a geometry", [&] { shape = formats::readModel(file / *inside); })) continue;
        demandPromises(shape, "reading a geometry");
        std::string back;
        if (!answered("putting a geometry back",
                      [&] { back = package::withGeometryOf(shape, *resource.bytes, read, resource.name); }))
            continue;
        if (formats::rowMeshHead(back, "back").triangles >
            formats::rowMeshHead(*resource.bytes, "old").triangles)
            throw Failure("a geometry that nothing changed has more triangles");
    }

    std::string bytes = readText(file, std::size_t(1) << 30);
    for (std::size_t i = 0, hits = 1 + dice.below(20); i < hits; ++i)
        bytes[dice.below(bytes.size())] = char(dice.below(256));
    if (dice.chance(0.3)) bytes.resize(dice.below(bytes.size() + 1));
    writeFile(file, bytes);
    if (answered("reading a damaged package", [&] { read = package::readPackage(file, {}); })) {
        answered("checking a damaged package", [&] { checkReferences(read, {}); });
        answered("copying a damaged package", [&] { makeMine(read, {"pear-box", "x", {}}); });
    }
}

} // namespace torture
