// XML that is told apart by its root: a hull of blocks (hull_file.h) or a scene of solids (scene_file.h).
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/formats/hull_file.h"
#include "core/formats/scene_file.h"
#include "core/blocks/greedy_mesh.h"
#include "core/solids/scene_model.h"
#include "core/texture/picture_file.h"

#include <fmt/format.h>
#include <pugixml.hpp>

#include <algorithm>

namespace zl::formats {

namespace {

Model hullFrom(files::SourceFile& source, std::string_view text) {
    HullFile file = readHull(text, source.where());
    blocks::Hull hull;
    hull.edge = file.edge, hull.paints = std::move(file.paints), hull.build = std::move(file.build);
    hull.first = {-(hull.build.size().x / 2), 0, 0};
    Model out = blocks::modelOf(std::move(hull), file.name.empty() ? source.stem() : file.name);
    out.frame.unitAssumed = out.frame.upAssumed = false;
    out.headingKnown = true;
    return out;
}

Model sceneFrom(files::SourceFile& source, std::string_view text) {
    SceneFile file = readScene(text, source.where());
    solids::Pictures pictures;
    for (const std::string& name : solids::picturesOf(file.scene))
        if (const auto beside = source.beside(name))
            pictures[name] =
                texture::pictureFromBytes(beside->name, std::string(source.bytes(*beside).text()));
    return solids::modelOf(std::move(file.scene), file.name.empty() ? source.stem() : file.name, pictures,
                           file.lit);
}

struct Root {
    std::string_view name;
    Model (*read)(files::SourceFile&, std::string_view);
};
constexpr Root roots[] = {{"hull", hullFrom}, {"scene", sceneFrom}};

} // namespace

Model readXml(files::SourceFile& source, const Progress&) {
    const auto bytes = source.bytes();
    const std::string_view text = bytes.text();
    // Only the root's name is wanted: comments and declarations before it are left to the library.
    pugi::xml_document document;
    const auto parsed = document.load_buffer(text.data(), text.size());
    const pugi::xml_node root = document.document_element();
    if (!parsed && !root)
        throw Error(fmt::format("is not XML ({}, at byte {})", parsed.description(), parsed.offset),
                    source.where());
    const auto known = std::ranges::find(roots, std::string_view(root.name()), &Root::name);
    if (known == std::end(roots))
        throw Error(fmt::format("is XML of a kind that is not known, <{}>", root.name()), source.where(),
                    "A <hull> of blocks and a <scene> of solids can be read.");
    return known->read(source, text);
}

} // namespace zl::formats
