#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A thing whose every material is a face that its owner may give another picture: NAME.glb without pictures,
/// the colour picture of each face as a file of its own, and NAME.thing.json with which is on which
/// (docs/formats/faced-thing.md).
struct FacedThing {
    bool lendable = false;

    static constexpr DeliverableInfo info{
        "faced-thing", "Thing with faces",
        "A mesh whose materials are faces, and the picture of each beside it."};
    static constexpr auto fields = describe(field<&FacedThing::lendable>("lendable", "May be lent")
                                                .help("Others may put it down on their ground, too."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
