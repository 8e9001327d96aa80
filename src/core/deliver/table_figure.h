#pragma once
#include "core/deliver/deliver.h"
#include "core/platform/sheet.h"

namespace zl::deliver {

/// A figure for the virtual table: NAME.obj with MTL and picture, NAME-collider.obj when there is a collider,
/// and NAME.table.json that says which files belong together (docs/formats/table-figure.md).
struct TableFigure {
    std::string finish;

    static constexpr DeliverableInfo info{"table-figure", "Figure for the table",
                                          "A figure with its collider and its finish."};
    static constexpr auto fields =
        describe(field<&TableFigure::finish>("finish", "Finish")
                     .offeredBySheet([](const platform::Sheet& sheet) { return sheet.finishes; })
                     .help("How the table shows its surface."));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
