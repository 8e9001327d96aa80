#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// One zip, NAME.bundle.zip: NAME.glb with the holder, its marks and the bodies that physics uses below it,
/// and bundle.json, which says what is in it and for which version of the engine it was made
/// (docs/formats/block-bundle.md).
struct BlockBundle {
    static constexpr DeliverableInfo info{"block-bundle", "Bundle for a block world",
                                          "One archive with the model, its body and what it was made for."};
    static constexpr auto fields = describe();

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
