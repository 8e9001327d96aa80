#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A thing whose every material is a face that its owner may give another picture: NAME.glb without pictures,
/// the colour picture of each face as a file of its own, and NAME.thing.json with which is on which
/// (docs/formats/faced-thing.md). A scene of solids goes as one: its XML and pictures (solid_scene.h).
struct FacedThing {
    bool lendable = false;

    static constexpr DeliverableInfo info{
        "faced-thing", "Thing with faces",
        "A mesh whose materials are faces, and the picture of each beside it; or a scene of solids."};
    static constexpr auto fields = describe(field<&FacedThing::lendable>("lendable", "May be lent")
                                                .help("Others may put it down on their ground, too."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
