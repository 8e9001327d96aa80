#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A pack of one file an object, pictures in pictures/, and pack.json. Each object is alone in its file,
/// without a node around it. A GLB is in metres, as its standard says; an OBJ states no unit and is in the
/// platform's (docs/formats/object-pack.md).
struct ObjectPack {
    enum class Format { Glb, Obj };
    Format format = Format::Glb;

    static constexpr DeliverableInfo info{"object-pack", "Pack of objects",
                                          "One file an object, with the pictures in a folder."};
    static constexpr Choice formats[] = {{"glb", "glTF binary"}, {"obj", "Wavefront OBJ"}};
    static constexpr auto fields = describe(
        field<&ObjectPack::format>("format", "Files").oneOf(formats).help("Kind of file for each object."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
