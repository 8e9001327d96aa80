#pragma once
#include "app/demo_project.h"
#include "app/game/game_page.h"
#include "app/pages/catalogue_page.h"
#include "app/pages/contents_page.h"
#include "app/pages/loom_page.h"
#include "app/pages/package_page.h"
#include "app/pages/platforms_page.h"
#include "app/sheets/learn_page.h"
#include "app/sheets/sheet_page.h"
#include "app/pages/start_page.h"
#include "app/pages/tryout_page.h"
#include "app/pages/workbench_page.h"
#include "app/widgets/status_line.h"
#include "app/widgets/top_bar.h"

#include <QMainWindow>

class QStackedWidget;

namespace zl::figure {
struct Kind;
}

namespace zl::app {

/// The window: a bar on top, one page at a time, and the status line.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow();

    Session& session() { return session_; }
    /// Nobody sits in front of it: nothing is kept aside, and what would be told goes to standard error.
    void setUnattended();
    /// Opens a project; asks about recovery when an autosave is newer. Says what is wrong and stays
    /// otherwise.
    bool openProject(const QString& file);
    void newProject();
    void showStart();
    /// Asks which platforms the project makes for.
    void showPlatforms();
    /// Where a sheet is made out of files that a game takes; those in `folder`, where it is given.
    void showLearn(const QString& folder = {});
    /// A platform's sheet, to read and to change; a new one where it is empty.
    void showSheet(const QString& sheet);
    /// What the game said of a piece that was delivered to it.
    void showGame(const QString& piece, const QString& platform);
    void showLoom();
    /// Shows the items of a game's catalogue.
    void showCatalogue(const QString& file);
    /// Shows the resources of an item's package.
    void showPackage(const QString& file);
    /// Shows what an archive holds.
    void openSettings();
    void showContents(const QString& archive);
    /// Brings models in as pieces; of an archive among them the contents are shown.
    void bringIn(const QStringList& files);
    void showWorkbench(const QString& piece, const QString& platform);
    /// A piece whose source is a new scene of solids beside the project, opened.
    void newScene();
    void suggestFor(const QString& piece, const QString& platform);
    void build();
    void buildAll();
    void tryOut();
    void openFind(const QString& text = {});

    void openAbout();
    /// Opens the demo project; makes its data first where it is missing.
    void openDemo();
    /// Where the demo project lies or is going to: beside the build, else in the user's data folder.
    void setDemo(const QString& file);
    LoomPage& loom() { return *loom_; }
    ContentsPage& contents() { return *contents_; }
    SheetPage& sheetPage() { return *sheet_; }
    LearnPage& learnPage() { return *learn_; }
    CataloguePage& catalogue() { return *catalogue_; }
    PackagePage& package() { return *package_; }
    WorkbenchPage& workbench() { return *workbench_; }
    TryoutPage& tryout() { return *tryout_; }
    GamePage& gamePage() { return *game_; }

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void makeActions();
    void showPage(QWidget* page);
    void backToWorkbench();
    void chooseModels();
    bool save();
    bool mayLeave();
    void remember(const QString& file);
    void takeUp(const QString& file);
    void report(const QString& text);
    /// Away from a page that things were brought in from.
    void takeIn(const std::vector<ItemSource>& items);
    void leaveSource();
    /// A sheet that somebody gave away: says what it is, and takes it in where that is wanted.
    void takeInSheet(const QString& package);
    /// Gives a platform a column, unless it has one.
    void takeSheet(const QString& sheet);
    /// Makes a figure beside the project and brings it in as a piece.
    void bringInFigure(const figure::Kind& kind);

    Session session_;
    QStackedWidget* pages_ = nullptr;
    StartPage* start_;
    PlatformsPage* platforms_;
    LearnPage* learn_;
    SheetPage* sheet_;
    LoomPage* loom_;
    ContentsPage* contents_;
    CataloguePage* catalogue_;
    PackagePage* package_;
    WorkbenchPage* workbench_;
    TryoutPage* tryout_;
    GamePage* game_;
    StatusLine* status_;
    TopBar* bar_;
    DemoProject demo_;
    struct Command {
        QString name;
        QKeySequence keys;
        std::function<void()> run;
    };
    std::vector<Command> commands_;
    bool isUnattended_ = false;
};

} // namespace zl::app
