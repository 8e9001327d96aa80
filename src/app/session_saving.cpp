// Saving, and bringing back what was not saved.
#include "app/session.h"

#include "app/qt_text.h"

#include "core/project/autosave.h"
#include "core/project/companions.h"
#include "core/project/dependencies.h"
#include "core/project/unsaved_place.h"

#include <QDateTime>
#include <QStandardPaths>

namespace fs = std::filesystem;

namespace zl::app {

void Session::takeUp(const fs::path& autosave) {
    auto place = project::UnsavedPlace::takenUp(autosave);
    if (!place) throw Error("is open in another window", autosave.string(), "Close it there first.");
    project::Project project = project::load(autosave);
    project.file.clear();
    reset(std::move(project));
    unsaved_ = std::move(place);
    lastSaved_ = {};
    recoverFrom(autosave);
    refresh();
    Q_EMIT projectChanged();
    Q_EMIT saveStateChanged();
}

void Session::recoverFrom(const fs::path& autosave) {
    try {
        project::takeUpDocuments(autosave, *documents_);
    } catch (const Error& error) {
        Q_EMIT said(qs(error.whole()));
    }
    edit(tr("recover unsaved work"), [](project::Project&) {});
}

namespace {

fs::path unsavedFolder() {
    return fs::path(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString()) /
           "unsaved";
}

} // namespace

std::vector<fs::path> Session::unsavedWork() {
    return project::unsavedIn(unsavedFolder());
}

void Session::saveAs(const fs::path& file) {
    project::Project saved = project_;
    saved.file = fs::absolute(file);
    if (saved.file.extension() != ".zestloom") saved.file += ".zestloom";
    if (saved.name == project::Project().name) saved.name = saved.file.stem().string();
    // Paths stay relative to wherever the project lies now.
    project::movePaths(saved, [&](const fs::path& path) {
        return project::keptPath(saved, project::wholePath(project_, path));
    });
    // Documents first: a project never names one that is not there.
    std::vector<fs::path> used;
    project::movePaths(saved, [&](const fs::path& path) {
        used.push_back(wholePath(saved, path));
        return path;
    });
    documents_->save(used);
    project::save(saved);
    dropAutosave();
    const bool moved = saved.folder() != project_.folder();
    project_ = std::move(saved);
    if (moved) loadSheets(); // its own platforms lie beside it
    dropAutosave();
    isKept_ = true;
    keepUsedSheets();
    undo_.setClean();
    lastSaved_ = QDateTime::currentDateTime();
    refresh();
    Q_EMIT saveStateChanged();
    Q_EMIT projectChanged();
}

void Session::close() {
    dropAutosave();
    jobs_.cancelAll();
    reset({});
    open_ = false;
    Q_EMIT projectChanged();
}

fs::path Session::autosaveFile() const {
    if (!project_.file.empty()) return project::autosavePath(project_.file);
    return unsaved_ ? unsaved_->autosave() : fs::path();
}

void Session::dropAutosave() {
    std::error_code ignored;
    if (const fs::path file = autosaveFile(); autosaves_ && open_ && !file.empty()) fs::remove(file, ignored);
    if (project_.file.empty()) unsaved_.reset();
}

void Session::autosave() {
    if (!autosaves_ || !open_ || undo_.isClean()) return;
    try {
        if (project_.file.empty() && !unsaved_) unsaved_ = project::UnsavedPlace::madeIn(unsavedFolder());
        project::autosave(project_, *documents_, autosaveFile());
        Q_EMIT saveStateChanged();
    } catch (const Error& error) {
        Q_EMIT said(tr("Autosave failed: %1").arg(qs(error.whole())));
    }
}

} // namespace zl::app
