#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A thing with its pictures as the sheet packs them: NAME.glb or NAME.dae (where it has levels of detail one
/// for each, or one with nodes for each, named as the sheet has it) with materials named as the sheet has it
/// and no pictures of its own, one file a material for each `[[picture]]`, a text beside each that says what
/// is in it, preview.png, and NAME.asset.toml with what it is (docs/formats/asset-folder.md). UVs are written
/// as the pictures lie on them. Throws Refused where the sheet has no `[[picture]]`.
struct AssetFolder {
    enum class Format { Glb, Collada };

    std::string sort;
    std::string words;
    Format format = Format::Glb;

    static constexpr DeliverableInfo info{
        "asset-folder", "Asset folder",
        "A mesh, pictures packed as the platform wants them, and texts that say "
        "what is what.",
        true};
    static constexpr Choice formats[] = {{"glb", "glTF binary"}, {"dae", "COLLADA"}};
    static constexpr auto fields = describe(
        field<&AssetFolder::format>("format", "Mesh").oneOf(formats).help("Kind of file for the mesh."),
        field<&AssetFolder::sort>("sort", "Sort of thing")
            .leastIs("not said")
            .help("Under what it stands in lists, such as lamp or seat."),
        field<&AssetFolder::words>("words", "Found by")
            .leastIs("its name alone")
            .help("Words that it is searched for by, with spaces between."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
