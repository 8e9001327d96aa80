#pragma once
#include "app/session.h"

#include "core/platform/own_sheet.h"

#include <QString>

namespace zl::app {

/// All words that a sheet may use here.
platform::Vocabulary sheetWords();

using platform::SheetOwner;
SheetOwner ownerOf(const platform::Sheet& sheet, const Session& session);
/// "ships with the program", "yours", "of this project".
QString ownerWords(SheetOwner owner);

/// Where new sheets go: beside the project, or among the user's own where it has no file yet.
std::filesystem::path newSheetFolder(const Session& session);
/// Changes a sheet on the disk, one that ships in a copy that takes its place; whether it could be done. Says
/// either.
bool changeSheet(Session& session, const platform::Sheet& sheet,
                 const std::function<void(platform::SheetText&)>& change);
/// An id for a sheet of that name that no sheet has yet.
std::string newSheetId(const QString& name, const Session& session);

/// The folder of files that a sheet was learnt from, on this machine; empty where none is known.
QString examplesOf(const std::string& sheet);
void rememberExamples(const std::string& sheet, const QString& folder);

/// How a limit is known, a sentence each: from examples, and from what the game said. Empty where nobody
/// says.
QStringList knownFrom(const platform::Sheet& sheet, const std::string& rule);

/// "3 of 5 pieces fit", as far as they were worked out; empty without pieces there.
QString fittingWords(const Session& session, const std::string& sheet);

} // namespace zl::app
