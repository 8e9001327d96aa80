// What changes the project, each as one step of undo.
#include "app/session.h"

#include "app/qt_text.h"

#include "core/project/companions.h"
#include "core/project/dependencies.h"

#include <QFileInfo>
#include <QUndoCommand>

#include <ranges>

namespace fs = std::filesystem;

namespace zl::app {

namespace {

/// "press-kiosk.obj" is a "Press kiosk".
std::string nameFrom(const QString& file) {
    QString name = QFileInfo(file).completeBaseName().replace('-', ' ').replace('_', ' ').simplified();
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    return name.toStdString();
}

/// Adds a piece of one source that is set up on all platforms of the project.
void addPiece(project::Project& project, const ItemSource& item) {
    project::Piece piece;
    piece.name = project.freeName(item.name);
    piece.sources.push_back(item.source);
    piece.sources.insert(piece.sources.end(), item.otherSizes.begin(), item.otherSizes.end());
    piece.recipe = item.recipe;
    project::movePaths(piece, [&](const fs::path& path) { return project::keptPath(project, path); });
    for (const std::string& platform : project.platforms) piece.crossings.push_back({platform, {}});
    project.pieces.push_back(std::move(piece));
}

/// A file's name without the size that it ends in, and the size; that is empty where it ends in none that a
/// platform knows.
std::pair<QString, std::string> sizeIn(const QString& file, const std::vector<SheetPointer>& sheets) {
    const QString base = QFileInfo(file).path() + "/" + QFileInfo(file).completeBaseName();
    for (const SheetPointer& sheet : sheets)
        for (const std::string& size : sheet->sizes)
            for (const char* between : {"_", "-", " "})
                if (const QString end = between + qs(size); base.endsWith(end, Qt::CaseInsensitive))
                    return {base.chopped(end.size()), size};
    return {base, {}};
}

/// Files that are sizes of one thing ("apron_slim.glb" and "apron_broad.glb") as one item, the others as one
/// each.
std::vector<ItemSource> inSizes(const QStringList& files, const std::vector<SheetPointer>& sheets) {
    std::vector<ItemSource> items;
    std::map<QString, std::size_t> known; ///< items whose file ends in a size
    for (const QString& file : files) {
        const auto [base, size] = sizeIn(file, sheets);
        ItemSource item = itemOf(file);
        if (!size.empty()) {
            const auto [entry, fresh] = known.try_emplace(base, items.size());
            if (!fresh) {
                ItemSource& first = items[entry->second];
                first.name = nameFrom(base + ".");
                first.source.size = sizeIn(qs(first.source.path.string()), sheets).second;
                item.source.size = size;
                first.otherSizes.push_back(std::move(item.source));
                continue;
            }
        }
        items.push_back(std::move(item));
    }
    return items;
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

/// One step of undo in a document, that was made already.
class DocumentEdit : public QUndoCommand {
public:
    DocumentEdit(Session& session, const QString& text, fs::path file,
                 std::unique_ptr<project::DocumentChange> change, QString mergeKey)
        : QUndoCommand(text), session_(session), file_(std::move(file)), mergeKey_(std::move(mergeKey)) {
        changes_.push_back(std::move(change));
    }

    void undo() override {
        again([&] {
            for (auto& change : changes_ | std::views::reverse) session_.documents().takeBack(file_, *change);
        });
        made_ = false;
    }
    void redo() override {
        if (!made_)
            again([&] {
                for (auto& change : changes_) session_.documents().edit(file_, *change);
            });
        made_ = true;
    }
    int id() const override { return mergeKey_.isEmpty() ? -1 : 2; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* next = static_cast<const DocumentEdit*>(other);
        if (next->mergeKey_ != mergeKey_ || next->file_ != file_) return false;
        for (auto& change : next->changes_) changes_.push_back(std::move(change));
        return true;
    }

private:
    /// What was made once can fail only when another program has written the file meanwhile.
    void again(const std::function<void()>& work) {
        try {
            work();
        } catch (const Error& error) {
            setObsolete(true);
            Q_EMIT session_.said(qs(error.whole()));
        }
        session_.documentChanged();
    }

    Session& session_;
    fs::path file_;
    mutable std::vector<std::unique_ptr<project::DocumentChange>> changes_;
    QString mergeKey_;
    bool made_ = true;
};

} // namespace

ItemSource itemOf(const QString& file) {
    return {nameFrom(file), {fs::absolute(file.toStdString())}, {}};
}

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
        for (const ItemSource& item : inSizes(files, sheets_)) addPiece(project, item);
    });
}

void Session::bringIn(const std::vector<ItemSource>& items) {
    if (items.empty()) return;
    const QString what = items.size() == 1 ? tr("bring in %1").arg(qs(items[0].name))
                                           : tr("bring in %1 items").arg(items.size());
    edit(what, [&](project::Project& project) {
        for (const ItemSource& item : items) {
            addPiece(project, item);
            project::Piece* figure = item.worn ? project.piece(item.worn->figure) : nullptr;
            if (figure) project::putOn(*figure, project.pieces.back().name, *item.worn);
        }
    });
}

std::vector<std::string> Session::figures() const {
    std::vector<std::string> out;
    for (const auto& [id, state] : states_)
        if (!state.evaluation.model.skins.empty() && project_.piece(id.first) &&
            (out.empty() || out.back() != id.first))
            out.push_back(id.first);
    return out;
}

void Session::addYardstick(const QString& file) {
    edit(tr("add a yardstick"), [&](project::Project& project) {
        project.yardsticks.push_back(
            {nameFrom(file), project::keptPath(project, fs::absolute(file.toStdString())), "", ""});
    });
}

void Session::addYardsticks(const std::vector<project::YardstickSource>& yardsticks) {
    auto fresh = yardsticks;
    for (auto& one : fresh) one.path = project::keptPath(project_, one.path);
    std::erase_if(fresh, [&](const auto& one) {
        return std::ranges::any_of(project_.yardsticks, [&](const auto& there) {
            return there.name == one.name && there.path == one.path;
        });
    });
    if (fresh.empty()) return;
    edit(tr("add yardsticks"), [&](project::Project& project) {
        project.yardsticks.insert(project.yardsticks.end(), fresh.begin(), fresh.end());
    });
}

std::string Session::addDocument(const project::DocumentKind& kind, const QString& name,
                                 std::unique_ptr<project::Document> content, const project::Source* of) {
    if (project_.file.empty())
        throw Error("has no file yet", project_.name, "Save the project; its documents lie beside it.");
    const std::string called = project_.freeName(name.toStdString());
    const fs::path file = project_.folder() / (called + "." + std::string(kind.extension));
    documents_->make(file, std::move(content));
    project::Source source{file, "", "", project::Permission::OwnWork};
    if (of) source.author = of->author, source.licence = of->licence, source.permission = of->permission;
    edit(tr("add %1").arg(qs(called)), [&](project::Project& project) {
        addPiece(project, {called, source});
    });
    return called;
}

void Session::editDocument(const QString& what, const fs::path& file,
                           std::unique_ptr<project::DocumentChange> change, const QString& mergeKey) {
    documents_->edit(file, *change);
    undo_.push(new DocumentEdit(*this, what, file, std::move(change), mergeKey));
    documentChanged();
}

void Session::renamePiece(const QString& from, const QString& to) {
    edit(tr("rename %1").arg(from), [&](project::Project& project) {
        project::renamePiece(project, from.toStdString(), to.toStdString());
    });
}

} // namespace zl::app
