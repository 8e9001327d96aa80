#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// An item for the row of houses: NAME.rowpackage (docs/formats/row-package.md). A piece whose source is the
/// geometry of a package or a catalogue becomes a copy of that item under names and numbers of its own, its
/// shape put in and all else as it was; any other piece a new item. Poses are those at the start of each
/// clip, for whatever bones the clip turns. Nothing in it may point at the original.
struct RowPackage {
    enum class What { Item, Poses };
    What what = What::Item;
    std::string called; ///< empty is the piece's name
    std::string maker;
    bool neighbours = true;

    static constexpr DeliverableInfo info{"row-package", "Package for the row",
                                          "One package of resources, under names that nobody else has."};
    static constexpr Choice whats[] = {{"item", "the item"}, {"poses", "its poses"}};
    static constexpr auto fields = describe(
        field<&RowPackage::what>("what", "What")
            .oneOf(whats)
            .help("The item itself, or the poses that its clips begin with, for the game's own figures."),
        field<&RowPackage::called>("called", "Called")
            .help("Takes the place of the original's name everywhere; letters, digits, - and _.")
            .leastIs("the piece's name"),
        field<&RowPackage::maker>("maker", "Maker")
            .help("Whose it is; the new numbers rest on it.")
            .leastIs("you"),
        field<&RowPackage::neighbours>("neighbours", "Try beside the originals")
            .help("Puts the packages beside the source into a folder neighbours, for the trial only.")
            .when("what", "item"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
