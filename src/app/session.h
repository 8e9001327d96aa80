#pragma once
#include "app/disk_watch.h"
#include "app/jobs.h"

#include "core/deliver/deliver.h"
#include "core/planner/planner.h"
#include "core/base/stamp.h"
#include "core/project/documents.h"
#include "core/project/put_on.h"
#include "core/project/source_cache.h"
#include "core/project/unsaved_place.h"
#include "core/project/used_sheets.h"

#include <QDateTime>
#include <QTimer>
#include <QUndoStack>

#include <map>

namespace zl::app {

using SheetPointer = std::shared_ptr<const platform::Sheet>;

/// Everything known about one piece on one platform. Values are shared with drawing and may be kept.
struct CrossingState {
    /// Failed and Stopped keep what was worked out last, where there is such.
    enum class Kind { Waiting, Working, Ready, Failed, Stopped } kind = Kind::Waiting;
    platform::FitReport report;
    recipe::Evaluation evaluation;
    Model source;
    Hash sourceHash = 0;
    /// Its other sizes, where it comes in several: the same recipe on theirs.
    struct Other {
        std::string size;
        Model source;
        Hash sourceHash = 0;
        recipe::Evaluation evaluation;
    };
    std::string size; ///< what the first is called
    std::vector<Other> others;
    std::string problem;
    Hash key = 0; ///< what it is worked out from, as far as that is known before reading
    std::vector<std::filesystem::path> files; ///< that were found on reading, also of what it takes in
    std::string stamps;                       ///< of those files

    /// All sizes as the recipe left them.
    Sizes sizes() const;
    bool hasResult() const { return !evaluation.outcomes.empty() || !source.nodes.empty(); }
};

/// A model that comes with a name, with what is known of its maker, and with the steps to begin with.
struct ItemSource {
    std::string name;
    project::Source source;
    recipe::Recipe recipe{};
    std::optional<project::Worn> worn{};       ///< the figure that it goes on at once
    std::vector<project::Source> otherSizes{}; ///< of the same thing, alike corner for corner
};
/// A file that nothing is known of but its name: "press-kiosk.obj" is a "Press kiosk".
ItemSource itemOf(const QString& file);

/// The open project, its undo history, and what has been worked out from it. All changes go through edit();
/// whatever depends on a change is worked out again in the background.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr,
                     std::shared_ptr<project::Documents> documents = std::make_shared<project::Documents>());

    bool isOpen() const { return open_; }
    const project::Project& project() const { return project_; }
    QUndoStack& undo() { return undo_; }
    Jobs& jobs() { return jobs_; }
    const std::vector<SheetPointer>& sheets() const { return sheets_; }
    SheetPointer sheet(const std::string& id) const;
    const QStringList& sheetProblems() const { return sheetProblems_; }
    /// Reads all sheets anew: one was made or changed. What rests on a changed one is worked out again.
    void reloadSheets();
    /// Sheets that are others than the project was saved with, until somebody says which is to hold.
    const std::vector<project::ChangedSheet>& changedSheets() const { return changedSheets_; }
    void takeChangedSheet(const std::string& sheet);
    void stayWithUsedSheet(const std::string& sheet);

    /// An empty project, which makes for no platform yet.
    void newProject();
    /// Throws Error. `recovered` takes the autosave in place of the file.
    void openProject(const std::filesystem::path& file, bool recovered = false);
    /// Takes up work that was never saved, from unsavedWork(). Throws Error.
    void takeUp(const std::filesystem::path& autosave);
    /// Autosaves of projects that were never saved, newest first.
    static std::vector<std::filesystem::path> unsavedWork();
    void saveAs(const std::filesystem::path& file);
    bool isSaved() const { return undo_.isClean() && !project_.file.empty(); }
    QDateTime lastSaved() const { return lastSaved_; }
    void close();
    /// Off while pictures are taken, which must leave nothing behind.
    void setAutosaves(bool on) { autosaves_ = on; }
    bool autosaves() const { return autosaves_; }

    /// Changes the project as one undo step called `what`. Edits with the same non-empty `mergeKey` in a row
    /// become one step.
    void edit(const QString& what, const std::function<void(project::Project&)>& change,
              const QString& mergeKey = {});
    /// The same for one piece, or one piece on one platform (set up there when it was not); nothing when
    /// there is no such piece.
    void editPiece(const QString& what, const QString& piece,
                   const std::function<void(project::Piece&)>& change, const QString& mergeKey = {});
    void editCrossing(const QString& what, const QString& piece, const QString& platform,
                      const std::function<void(project::Crossing&)>& change, const QString& mergeKey = {});
    /// Gives a platform a column on the Loom, or takes it; what pieces have there is kept.
    void showPlatform(const platform::Sheet& sheet, bool shown);
    /// The platforms that have a column, in order. The first that a project gets are set up for all its
    /// pieces.
    void choosePlatforms(const std::vector<std::string>& platforms);
    /// Brings model files in as new pieces, set up on all platforms of the project.
    void bringIn(const QStringList& files);
    /// The same for items that more is known of; their paths are whole, also those in their recipes.
    void bringIn(const std::vector<ItemSource>& items);
    /// Pieces that have bones, as far as they were worked out.
    std::vector<std::string> figures() const;
    /// Brings a known object in to measure against.
    void addYardstick(const QString& file);
    /// The same for those that came with a sheet; such that are there by their name and file already stay.
    void addYardsticks(const std::vector<project::YardstickSource>& yardsticks);
    /// Adds a piece whose source is a new document beside the project's file, and says what it is called.
    /// Content that was made of another source's is by its author, under its licence. Throws Error when the
    /// project has no file yet.
    std::string addDocument(const project::DocumentKind& kind, const QString& name,
                            std::unique_ptr<project::Document> content = nullptr,
                            const project::Source* of = nullptr);
    /// Changes a document that is a source, as one step of undo among the project's; edits of it with the
    /// same non-empty `mergeKey` in a row become one step. Throws Error as the change does.
    void editDocument(const QString& what, const std::filesystem::path& file,
                      std::unique_ptr<project::DocumentChange> change, const QString& mergeKey = {});
    project::Documents& documents() { return *documents_; }
    /// Gives a piece another name, also where other pieces take it in. Throws Error when it is empty or
    /// taken.
    void renamePiece(const QString& from, const QString& to);

    const CrossingState& state(const std::string& piece, const std::string& platform) const;
    /// Goes on with everything that was stopped.
    void resume();
    bool isAnythingStopped() const;
    /// Tries everything again that could not be read: a key may have been given.
    void readFailedAgain();
    /// What a delivery of the crossing would be made of now; changes with finish, credit and the like too.
    Hash deliveryKey(const std::string& piece, const std::string& platform) const;
    /// The project as it is now, for work that goes on beside this.
    std::shared_ptr<const project::Project> snapshot();
    /// Works this one out before the others.
    void prefer(const std::string& piece, const std::string& platform);

    recipe::EvaluationCache& cache() { return *cache_; }
    std::shared_ptr<recipe::EvaluationCache> sharedCache() { return cache_; }
    std::shared_ptr<project::SourceCache> sources() { return sources_; }
    // Called by the undo history.
    void replaceProject(project::Project project);
    void documentChanged();

Q_SIGNALS:
    void projectChanged();
    void projectExchanged(); ///< another project is open: nothing that was made of the old one holds
    void crossingChanged(const QString& piece, const QString& platform);
    /// What a long step has so far, as long as the crossing is worked on.
    void crossingComes(const QString& piece, const QString& platform,
                       const std::shared_ptr<const Model>& model);
    void pieceRenamed(const QString& from, const QString& to);
    void saveStateChanged();
    void said(const QString& text);

private:
    void reset(project::Project project);
    void loadSheets(); ///< also the project's own
    /// Looks beside the window which sheets are others than the project was saved with.
    void lookForChangedSheets();
    void keepUsedSheets();
    void recoverFrom(const std::filesystem::path& autosave);
    void refresh();
    /// Takes what was worked out along to pieces' new names, be they given or given back by undo.
    void followNames(const project::Project& before);
    void startCrossing(const std::string& piece, const std::string& platform, Urgency urgency,
                       Stamps& stamps);
    /// Takes what a long step has so far to the window's thread.
    std::function<void(const Model&)> comesTo(const std::pair<std::string, std::string>& id, Hash key);
    void diskChanged(const DiskChanges& changes);
    std::filesystem::path autosaveFile() const;
    void dropAutosave();
    void autosave();

    bool open_ = false, autosaves_ = true;
    project::Project project_;
    std::shared_ptr<const project::Project>
        snapshot_; ///< of project_, shared by the work that was started on it
    QUndoStack undo_;
    Jobs jobs_;
    std::vector<SheetPointer> sheets_;
    QStringList sheetProblems_;
    std::vector<project::ChangedSheet> changedSheets_;
    bool isKept_ = false; ///< it is known which changed, so that the others may be kept as they are
    std::shared_ptr<project::Documents> documents_;
    std::shared_ptr<project::SourceCache> sources_ = std::make_shared<project::SourceCache>(documents_);
    std::shared_ptr<recipe::EvaluationCache> cache_ = std::make_shared<recipe::EvaluationCache>();
    std::map<std::pair<std::string, std::string>, CrossingState> states_;
    std::map<std::pair<std::string, std::string>, QPointer<Job>> working_;
    std::pair<std::string, std::string> preferred_;
    DiskWatch disk_;
    QTimer autosaveTimer_;
    std::optional<project::UnsavedPlace> unsaved_; ///< of a project without a file
    QDateTime lastSaved_;
};

} // namespace zl::app
