// What changes the project, each as one step of undo.
#include "app/session.h"

#include "app/qt_text.h"

#include "core/project/companions.h"
#include "core/project/dependencies.h"

#include <QFileInfo>
#include <QUndoCommand>

namespace fs = std::filesystem;

namespace zl::app {

namespace {

/// "press-kiosk.obj" is a "Press kiosk".
std::string nameFrom(const QString& file) {
    QString name = QFileInfo(file).completeBaseName().replace('-', ' ').replace('_', ' ').simplified();
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    return name.toStdString();
}

/// One step of undo: the whole project before and after. Projects are small (models are not in them).
class ProjectEdit : public QUndoCommand {
public:
    ProjectEdit(Session& session, const QString& text, project::Project before, project::Project after,
                QString mergeKey)
        : QUndoCommand(text), session_(session), before_(std::move(before)), after_(std::move(after)),
          mergeKey_(std::move(mergeKey)) {}

    void undo() override { session_.replaceProject(before_); }
    void redo() override { session_.replaceProject(after_); }
    int id() const override { return mergeKey_.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* next = static_cast<const ProjectEdit*>(other);
        if (next->mergeKey_ != mergeKey_) return false;
        after_ = next->after_;
        return true;
    }

private:
    Session& session_;
    project::Project before_, after_;
    QString mergeKey_;
};

} // namespace

void Session::edit(const QString& what, const std::function<void(project::Project&)>& change,
                   const QString& mergeKey) {
    project::Project after = project_;
    change(after);
    undo_.push(new ProjectEdit(*this, what, project_, std::move(after), mergeKey));
}

void Session::editPiece(const QString& what, const QString& piece,
                        const std::function<void(project::Piece&)>& change, const QString& mergeKey) {
    if (!project_.piece(piece.toStdString())) return;
    edit(
        what, [&](project::Project& project) { change(*project.piece(piece.toStdString())); }, mergeKey);
}

void Session::editCrossing(const QString& what, const QString& piece, const QString& platform,
                           const std::function<void(project::Crossing&)>& change, const QString& mergeKey) {
    editPiece(
        what, piece, [&](project::Piece& p) { change(p.setUpOn(platform.toStdString())); }, mergeKey);
}

void Session::showPlatform(const platform::Sheet& sheet, bool shown) {
    const auto name = qs(sheet.name);
    edit(shown ? tr("add %1").arg(name) : tr("hide %1").arg(name), [&](project::Project& p) {
        std::erase(p.platforms, sheet.id);
        if (shown) p.platforms.push_back(sheet.id);
    });
}

void Session::choosePlatforms(const std::vector<std::string>& platforms) {
    if (platforms == project_.platforms) return;
    edit(tr("choose platforms"), [&](project::Project& p) {
        const bool first = p.platforms.empty();
        p.platforms = platforms;
        for (project::Piece& piece : p.pieces)
            for (const std::string& id : platforms)
                if (first) piece.setUpOn(id);
    });
}

void Session::bringIn(const QStringList& files) {
    if (files.isEmpty()) return;
    const QString what = files.size() == 1 ? tr("bring in %1").arg(QFileInfo(files[0]).fileName())
                                           : tr("bring in %1 files").arg(files.size());
    edit(what, [&](project::Project& project) {
        for (const QString& file : files) {
            project::Piece piece;
            piece.name = project.freeName(nameFrom(file));
            piece.sources.push_back({project::keptPath(project, fs::absolute(file.toStdString())), "", "",
                                     project::Permission::AskFirst});
            for (const std::string& platform : project.platforms) piece.crossings.push_back({platform, {}});
            project.pieces.push_back(std::move(piece));
        }
    });
}

void Session::addYardstick(const QString& file) {
    edit(tr("add a yardstick"), [&](project::Project& project) {
        project.yardsticks.push_back(
            {nameFrom(file), project::keptPath(project, fs::absolute(file.toStdString())), "", ""});
    });
}

void Session::renamePiece(const QString& from, const QString& to) {
    edit(tr("rename %1").arg(from), [&](project::Project& project) {
        project::renamePiece(project, from.toStdString(), to.toStdString());
    });
}

} // namespace zl::app
