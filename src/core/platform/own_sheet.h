#pragma once
#include "core/platform/sheet_text.h"
#include "core/platform/sheet.h"

#include <functional>

namespace zl::platform {

/// Whose a sheet is, by where its file lies.
enum class SheetOwner { Ships, Yours, Project };

/// `projectFolder` may be empty: there is no project with a file.
SheetOwner ownerOf(const Sheet& sheet, const std::filesystem::path& projectFolder);

/// Where new sheets go: beside the project, or among the user's own where there is none.
std::filesystem::path newSheetFolder(const std::filesystem::path& projectFolder);

/// Changes a sheet where it lies. One that ships stays as it is: a copy of the same id, which takes its
/// place, is made in newSheetFolder(). Writes nothing unless the outcome can be read. The file that was
/// written; throws Error.
std::filesystem::path changeSheet(const Sheet& sheet, const std::filesystem::path& projectFolder,
                                  const std::function<void(SheetText&)>& change, const Vocabulary& words);

/// Writes a sheet's text to `file`, with the templates that lie beside the file that `sheet`, which is what
/// the text says, came from. All or nothing; throws Error.
void writeSheet(const std::string& text, const Sheet& sheet, const std::filesystem::path& file);

} // namespace zl::platform
