// The sheets that a project goes by, and those that changed since it was saved.
#include "app/session.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"

namespace zl::app {

void Session::loadSheets() {
    std::vector<std::string> problems;
    sheets_ = platform::loadSheets(project_.folder(), &problems, sheetWords());
    sheetProblems_.clear();
    for (const std::string& problem : problems) sheetProblems_ << qs(problem);
}

void Session::reloadSheets() {
    loadSheets();
    if (!open_) return;
    if (isKept_) keepUsedSheets();
    refresh();
    Q_EMIT projectChanged();
}

void Session::lookForChangedSheets() {
    changedSheets_.clear();
    isKept_ = false;
    if (project_.file.empty()) return;
    jobs_.start<std::vector<project::ChangedSheet>>(
        tr("Looking which sheets changed"), this,
        [project = snapshot(), sheets = sheets_](const Progress&) {
            return project::changedSheets(*project, sheets, sheetWords());
        },
        [this, file = project_.file](std::vector<project::ChangedSheet> changed) {
            if (file != project_.file) return;
            isKept_ = true;
            changedSheets_ = std::move(changed);
            if (changedSheets_.empty()) return;
            Q_EMIT projectChanged();
            Q_EMIT said(changedSheets_.size() == 1
                            ? tr("The sheet of %1 changed since this project was saved; see Platforms")
                                  .arg(qs(changedSheets_[0].now->name))
                            : tr("%1 sheets changed since this project was saved; see Platforms")
                                  .arg(changedSheets_.size()));
        },
        [this](const QString& problem) { Q_EMIT said(problem); }, Urgency::Usual);
}

void Session::keepUsedSheets() {
    std::vector<std::string> open;
    for (const auto& one : changedSheets_) open.push_back(one.now->id);
    try {
        project::keepUsedSheets(project_, sheets_, open);
    } catch (const std::exception& problem) {
        Q_EMIT said(qs(wordsOf(problem)));
    }
}

void Session::takeChangedSheet(const std::string& sheet) {
    std::erase_if(changedSheets_, [&](const auto& one) { return one.now->id == sheet; });
    keepUsedSheets();
    Q_EMIT projectChanged();
}

void Session::stayWithUsedSheet(const std::string& sheet) {
    try {
        project::stayWithUsedSheet(project_, sheet, sheetWords());
    } catch (const std::exception& problem) {
        Q_EMIT said(qs(wordsOf(problem)));
        return;
    }
    std::erase_if(changedSheets_, [&](const auto& one) { return one.now->id == sheet; });
    reloadSheets();
}

} // namespace zl::app
