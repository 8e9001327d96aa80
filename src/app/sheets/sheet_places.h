#pragma once
#include "app/session.h"

#include <QString>

namespace zl::app {

/// All words that a sheet may use here.
platform::Vocabulary sheetWords();

/// Whose a sheet is, by where its file lies.
enum class SheetOwner { Ships, Yours, Project };
SheetOwner ownerOf(const platform::Sheet& sheet, const Session& session);
/// "ships with the program", "yours", "of this project".
QString ownerWords(SheetOwner owner);

/// Where new sheets go: beside the project, or among the user's own where it has no file yet.
std::filesystem::path newSheetFolder(const Session& session);
/// An id for a sheet of that name that no sheet has yet.
std::string newSheetId(const QString& name, const Session& session);

/// The folder of files that a sheet was learnt from, on this machine; empty where none is known.
QString examplesOf(const std::string& sheet);
void rememberExamples(const std::string& sheet, const QString& folder);

/// "3 of 5 pieces fit", as far as they were worked out; empty without pieces there.
QString fittingWords(const Session& session, const std::string& sheet);

} // namespace zl::app
