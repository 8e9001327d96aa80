#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A prop for the level compiler: its level text in metres (the importer multiplies), pictures beside it, and
/// NAME.scene.json (docs/formats/level-text.md, docs/formats/level-scene.md).
struct LevelScene {
    static constexpr DeliverableInfo info{"level-scene", "Scene for the level compiler",
                                          "Level text with its pictures."};
    static constexpr auto fields = describe();

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
