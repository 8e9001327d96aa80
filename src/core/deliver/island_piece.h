#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A scan for an island: NAME.glb with its pictures inside, and NAME.island.json with what it is and what was
/// reckoned to take of memory, upload and frame time (docs/formats/island-piece.md).
struct IslandPiece {
    std::string note;

    static constexpr DeliverableInfo info{
        "island-piece", "Island piece",
        "One file with everything in it, and a text that says what it takes."};
    static constexpr auto fields =
        describe(field<&IslandPiece::note>("note", "Note")
                     .leastIs("none")
                     .help("Stands under the piece where islands are built, such as how it was scanned."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
