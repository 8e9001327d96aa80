#include "core/deliver/asset_folder.h"

#include "core/base/error.h"
#include "core/base/toml_text.h"
#include "core/base/unique_names.h"
#include "core/deliver/packed_pictures.h"
#include "core/deliver/placed_for.h"
#include "core/geometry/world.h"
#include "core/model/clothe_bare.h"
#include "core/geometry/levels.h"
#include "core/model/used_only.h"
#include "core/motion/still.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

#include <iterator>
#include <sstream>

namespace zl::deliver {

namespace {

/// Without pictures and with the names of the platform.
Model bare(Model model, const platform::SheetSurface& surface) {
    model = withoutPictures(std::move(model));
    for (Material& material : model.materials) material.name = surface.materialFor(material.name);
    return model;
}

std::string list(const std::vector<std::string>& texts) {
    std::vector<std::string> quoted;
    for (const std::string& text : texts) quoted.push_back(tomlText(text));
    return fmt::format("[{}]", fmt::join(quoted, ", "));
}

std::vector<std::string> wordsOf(const std::string& text) {
    std::istringstream in(text);
    return {std::istream_iterator<std::string>(in), {}};
}

std::string companionOf(const platform::SheetPicture& picture, const std::string& file,
                        const std::string& material, const PackedPicture& packed) {
    constexpr std::string_view channels[] = {"red", "green", "blue", "alpha"};
    std::string out = fmt::format("picture = {}\nmaterial = {}\nwidth = {}\nheight = {}\n", tomlText(file),
                                  tomlText(material), packed.pixels.width, packed.pixels.height);
    for (std::size_t k = 0; k < 4; ++k)
        if (picture.channels[k])
            out += fmt::format("{} = {}\n", channels[k], tomlText(textOf(*picture.channels[k])));
    if (!packed.assumed.empty()) out += fmt::format("assumed = {}\n", list(packed.assumed));
    if (!packed.leftOut.empty()) out += fmt::format("left-out = {}\n", list(packed.leftOut));
    if (!picture.flags.empty()) out += "\n[flags]\n";
    for (const auto& [name, value] : picture.flags)
        out += fmt::format("{} = {}\n", tomlKey(name), tomlText(value));
    return out;
}

/// Levels that get smaller are made as what the picture mostly holds.
texture::PixelKind kindOf(const platform::SheetPicture& picture) {
    const auto roles = picture.roles();
    return roles.empty() ? texture::PixelKind::Numbers : texture::pixelKindOf(roles[0]);
}

OutFile glbOf(const platform::Sheet& sheet, const Model& model, const std::string& name) {
    return std::move(formats::writeGlb(model, writeOptionsFor(sheet, name), nullptr)[0]);
}
OutFile colladaOf(const platform::Sheet& sheet, const Model& model, const std::string& name) {
    return std::move(bakedCollada(sheet, model, name)[0]);
}

struct Meshes {
    std::vector<OutFile> files; ///< the whole first
    std::string levels;         ///< the lines that say where its coarser copies are; empty without such
};

/// The mesh, and its coarser copies as the sheet wants them.
Meshes meshesOf(const Model& whole, const platform::Sheet& sheet, const std::string& base,
                decltype(&glbOf) written) {
    const int levels = geometry::levelCount(whole);
    if (levels == 1) return {{written(sheet, bare(whole, sheet.surface), base)}, {}};
    const auto called = [&](const std::string& name, int level) { return sheet.levels.nameFor(name, level); };
    Meshes out;
    if (sheet.levels.as == platform::SheetLevels::As::Nodes) {
        const auto nodes = geometry::levelsAsNodes(whole, called);
        out.files.push_back(written(sheet, bare(nodes.model, sheet.surface), base));
        std::vector<std::string> lists;
        for (std::size_t level = 1; level < nodes.names.size(); ++level)
            lists.push_back(list(nodes.names[level]));
        out.levels = fmt::format("level-nodes = [{}]\n", fmt::join(lists, ", "));
        return out;
    }
    std::vector<std::string> coarser;
    for (int level = 0; level < levels; ++level) {
        out.files.push_back(written(sheet, bare(geometry::atLevel(whole, level), sheet.surface),
                                    fileNameFrom(called(base, level))));
        if (level > 0) coarser.push_back(out.files.back().name);
    }
    out.levels = fmt::format("levels = {}\n", list(coarser));
    return out;
}

} // namespace

std::vector<OutFile> AssetFolder::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                       const Progress& progress) const {
    const platform::SheetSurface& surface = sheet.surface;
    if (surface.pictures.empty())
        throw Refused("its sheet names no pictures", sheet.name, "Add a [[picture]] section to it.");
    Model clothed = withUsedMaterialsOnly(motion::stillAtRest(model)); // the railway moves none of it
    const std::string base = fileNameFrom(labels.name);
    clotheBare(clothed, base.substr(0, 40)); // pictures are called after it, and more
    const Model whole = withNormalsAdded(withMaterialNamesOnce(std::move(clothed)));
    Meshes meshes = meshesOf(whole, sheet, base, format == Format::Glb ? &glbOf : &colladaOf);
    std::vector<OutFile>& files = meshes.files;
    UniqueNames names = uniqueFileNames();
    names.take("preview.png"), names.take(base + ".asset.toml");
    for (const OutFile& file : files) names.take(file.name);
    std::string about = fmt::format("format = \"asset-folder\"\nversion = 1\nname = {}\nmesh = {}\n",
                                    tomlText(labels.name), tomlText(files[0].name));
    about += meshes.levels;
    if (!sort.empty()) about += fmt::format("sort = {}\n", tomlText(sort));
    about += fmt::format("words = {}\n", list(wordsOf(words.empty() ? labels.name : words)));
    about += "preview = \"preview.png\"\n";
    if (!labels.credit.empty()) about += fmt::format("credit = {}\n", tomlText(labels.credit));
    const std::size_t all = whole.materials.size() * surface.pictures.size();
    std::size_t done = 0;
    for (const Material& material : whole.materials) {
        about += fmt::format("\n[[material]]\nname = {}\npictures = [",
                             tomlText(surface.materialFor(material.name)));
        for (const platform::SheetPicture& picture : surface.pictures) {
            progress.report(0.8 * double(done++) / double(all), "packing " + material.name);
            const PackedPicture packed = packedFor(picture, material, whole);
            const auto& written = texture::pictureFormat(picture.format);
            const std::string file =
                names.made(fileNameFrom(picture.nameFor(material.name)) + std::string(written.extension));
            about += fmt::format("{}{}", about.back() == '[' ? "" : ", ", tomlText(file));
            if (!surface.companion.empty())
                files.push_back({names.made(file + surface.companion),
                                 companionOf(picture, file, surface.materialFor(material.name), packed)});
            files.push_back({file, written.write(packed.pixels, packed.alpha, kindOf(picture))});
        }
        about += "]\n";
    }
    progress.report(0.9, "drawing the preview");
    files.push_back(
        {"preview.png", texture::encodePng(render::snapshot(whole, {.width = 800, .height = 500}), false)});
    files.push_back({base + ".asset.toml", std::move(about)});
    return files;
}

} // namespace zl::deliver
