#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A vehicle of blocks: NAME.hull.xml and nothing else (docs/formats/block-hull.md).
struct BlockHull {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{"block-hull", "Hull of blocks",
                                          "Every block with its kind, its turn and its paint, as XML."};
    static constexpr auto fields =
        describe(field<&BlockHull::called>("called", "Called").leastIs("the piece's name"));

    /// Throws Refused for a model that is no build of blocks.
    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
