#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// An outfit in all its sizes: a file NAME_SIZE each, with the same objects, corners and triangles in the
/// same order, and NAME.outfit.json that says which belong together (docs/formats/outfit.md). Corners stay in
/// the order in which they are, so that the game can blend between the sizes. Throws Refused for a size that
/// the platform wants and that is not there.
struct Outfit {
    enum class Format { Glb, Text };
    Format format = Format::Glb;

    static constexpr DeliverableInfo info{"outfit", "Outfit in all sizes",
                                          "A file a size, alike corner for corner."};
    static constexpr Choice formats[] = {{"glb", "glTF binary"}, {"text", "text mesh"}};
    static constexpr auto fields = describe(
        field<&Outfit::format>("format", "Files").oneOf(formats).help("Kind of file for each size."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
