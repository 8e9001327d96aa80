#pragma once
#include "core/platform/sheet.h"
#include "core/project/project.h"

namespace zl::project {

using SheetPointer = std::shared_ptr<const platform::Sheet>;

/// A sheet that is another one now than when the project was saved last.
struct ChangedSheet {
    SheetPointer before, now;
    std::vector<std::string> changes; ///< in sentences
};

/// Keeps the sheets that the project's crossings go by beside its file, whole, so that a later edition can be
/// held against them; those in `except` stay as they were kept. Nothing for a project without a file. Throws
/// Error when they cannot be written.
void keepUsedSheets(const Project& project, const std::vector<SheetPointer>& sheets,
                    const std::vector<std::string>& except = {});

/// Sheets of which something changed that a delivery or a verdict rests on. Copies that cannot be read are
/// passed over.
std::vector<ChangedSheet> changedSheets(const Project& project, const std::vector<SheetPointer>& sheets,
                                        const platform::Vocabulary& words);

/// Puts a sheet as it was kept into the project's own platforms, where it takes the other's place. Throws
/// Error.
void stayWithUsedSheet(const Project& project, const std::string& sheet, const platform::Vocabulary& words);

} // namespace zl::project
