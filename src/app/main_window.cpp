#include "app/main_window.h"

#include "app/qt_text.h"
#include "app/pages/about_dialog.h"
#include "app/pages/build_all_dialog.h"
#include "app/program.h"
#include "app/pages/settings_dialog.h"
#include "app/theme.h"
#include "app/widgets/leaving.h"

#include "core/project/autosave.h"

#include <iostream>

#include <QCloseEvent>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QStandardPaths>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace zl::app {

MainWindow::MainWindow() {
    setWindowTitle("Zest Loom[*]");
    setWindowIcon(QIcon(":/zest-loom.svg"));
    setMinimumSize(1100, 700);
    resize(QSettings().value("windowSize", QSize(1280, 800)).toSize());
    setAcceptDrops(true);
    auto* centre = new QWidget;
    auto* layout = new QVBoxLayout(centre);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    setCentralWidget(centre);
    bar_ = new TopBar;
    layout->addWidget(bar_);
    pages_ = new QStackedWidget;
    layout->addWidget(pages_, 1);
    start_ = new StartPage;
    platforms_ = new PlatformsPage(session_);
    learn_ = new LearnPage(session_);
    sheet_ = new SheetPage(session_);
    loom_ = new LoomPage(session_);
    contents_ = new ContentsPage(session_);
    catalogue_ = new CataloguePage(session_);
    package_ = new PackagePage(session_);
    workbench_ = new WorkbenchPage(session_);
    tryout_ = new TryoutPage(session_);
    game_ = new GamePage(session_);
    connect(&workbench_->deliver(), &DeliverPanel::tryAsked, this, [this](const QString& folder) {
        showPage(tryout_);
        if (const auto sheet = session_.sheet(workbench_->platform().toStdString()))
            tryout_->load(folder, sheet->standIn, sheet);
    });
    for (QWidget* page :
         {static_cast<QWidget*>(start_), static_cast<QWidget*>(platforms_), static_cast<QWidget*>(learn_),
          static_cast<QWidget*>(sheet_), static_cast<QWidget*>(loom_), static_cast<QWidget*>(contents_),
          static_cast<QWidget*>(catalogue_), static_cast<QWidget*>(package_),
          static_cast<QWidget*>(workbench_), static_cast<QWidget*>(tryout_), static_cast<QWidget*>(game_)})
        pages_->addWidget(page);
    status_ = new StatusLine(session_, this);
    layout->addWidget(status_);

    connect(start_, &StartPage::newAsked, this, &MainWindow::newProject);
    connect(start_, &StartPage::openAsked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Open a project"), {},
                                                          tr("Zest Loom projects (*.zestloom)"));
        if (!file.isEmpty()) openProject(file);
    });
    connect(start_, &StartPage::fileAsked, this, [this](const QString& file) { openProject(file); });
    connect(start_, &StartPage::unsavedAsked, this, &MainWindow::takeUp);
    connect(start_, &StartPage::demoAsked, this, &MainWindow::openDemo);
    connect(platforms_, &PlatformsPage::chosen, this, [this](const std::vector<std::string>& platforms) {
        session_.choosePlatforms(platforms);
        showLoom();
    });
    connect(platforms_, &PlatformsPage::left, this, &MainWindow::showLoom);
    connect(platforms_, &PlatformsPage::learnAsked, this, &MainWindow::showLearn);
    connect(platforms_, &PlatformsPage::takeInAsked, this, &MainWindow::takeInSheet);
    connect(platforms_, &PlatformsPage::sheetAsked, this, &MainWindow::showSheet);
    connect(sheet_, &SheetPage::left, this, &MainWindow::showPlatforms);
    connect(sheet_, &SheetPage::saved, this, [this](const QString& sheet) {
        takeSheet(sheet);
        status_->say(tr("The sheet is saved"));
    });
    connect(&workbench_->deliver(), &DeliverPanel::gameAsked, this,
            [this] { showGame(workbench_->piece(), workbench_->platform()); });
    connect(game_, &GamePage::left, this, &MainWindow::backToWorkbench);
    connect(game_, &GamePage::ruleAsked, this, [this](const QString& rule) {
        backToWorkbench();
        workbench_->chooseRule(rule);
    });
    connect(learn_, &LearnPage::left, this, &MainWindow::showPlatforms);
    connect(learn_, &LearnPage::made, this, [this](const QString& sheet) {
        takeSheet(sheet);
        status_->say(tr("%1 is on the Loom now: bring in a model, and see how it stands")
                         .arg(qs(session_.sheet(sheet.toStdString())->name)));
        showLoom();
    });
    const auto source = [this](auto* page) {
        using Page = std::remove_pointer_t<decltype(page)>;
        connect(page, &Page::left, this, [this] { session_.isOpen() ? showLoom() : showStart(); });
        connect(page, &Page::itemsAsked, this, &MainWindow::takeIn);
    };
    source(contents_), source(catalogue_), source(package_);
    connect(loom_, &LoomPage::platformsAsked, this, &MainWindow::showPlatforms);
    connect(loom_, &LoomPage::openAsked, this, &MainWindow::showWorkbench);
    connect(loom_, &LoomPage::suggestAsked, this, &MainWindow::suggestFor);
    connect(loom_, &LoomPage::bringInAsked, this, &MainWindow::chooseModels);
    connect(bar_, &TopBar::homeAsked, this, &MainWindow::showLoom);
    connect(bar_, &TopBar::findAsked, this, [this] { openFind(); });
    connect(bar_, &TopBar::bringInAsked, this, &MainWindow::chooseModels);
    connect(bar_, &TopBar::undoAsked, &session_.undo(), &QUndoStack::undo);
    connect(bar_, &TopBar::suggestAsked, workbench_, &WorkbenchPage::suggest);
    connect(bar_, &TopBar::buildAllAsked, this, &MainWindow::buildAll);
    connect(bar_, &TopBar::buildAsked, this, &MainWindow::build);
    connect(bar_, &TopBar::tryAsked, this, &MainWindow::tryOut);
    connect(bar_, &TopBar::backAsked, this, &MainWindow::backToWorkbench);
    connect(bar_, &TopBar::settingsAsked, this, &MainWindow::openSettings);
    if (auto* program = qobject_cast<Program*>(QApplication::instance()))
        connect(program, &Program::troubled, status_, &StatusLine::say);
    connect(&session_.undo(), &QUndoStack::indexChanged, this,
            [this] { bar_->setUndo(session_.undo().canUndo() ? session_.undo().undoText() : QString()); });
    connect(&session_, &Session::saveStateChanged, this,
            [this] { setWindowModified(!session_.undo().isClean()); });
    connect(&session_, &Session::projectChanged, this,
            [this] { bar_->setCanBuildAll(!session_.project().pieces.empty()); });
    makeActions();
    showStart();
}

void MainWindow::showStart() {
    QStringList recent;
    for (const QString& file : QSettings().value("recent").toStringList())
        if (QFile::exists(file)) recent << file;
    start_->setRecent(session_.autosaves() ? recent.mid(0, 6)
                                           : QStringList()); // pictures show nobody's folders
    std::vector<std::pair<QString, QDateTime>> unsaved;
    if (session_.autosaves())
        for (const auto& file : Session::unsavedWork()) {
            const QString path = qs(file.string());
            unsaved.emplace_back(path, QFileInfo(path).lastModified());
        }
    start_->setUnsaved(unsaved);
    start_->setDemo(demo_.file());
    showPage(start_);
}

void MainWindow::showPage(QWidget* page) {
    if (pages_->currentWidget() == sheet_ && page != sheet_ && page != platforms_ && !sheet_->mayLeave())
        return;
    if (pages_->currentWidget() == package_ && page != package_ &&
        !package_->mayLeave([this, page] { showPage(page); }))
        return;
    pages_->setCurrentWidget(page);
    const auto sheet = session_.sheet(workbench_->platform().toStdString());
    TopBar::Place place;
    place.page = page == start_ ? TopBar::Page::Start
                 : page == loom_ || page == platforms_ || page == learn_ || page == sheet_
                     ? TopBar::Page::Loom
                 : qobject_cast<SourcePage*>(page) ? TopBar::Page::Contents
                 : page == workbench_              ? TopBar::Page::Workbench
                 : page == game_                   ? TopBar::Page::Game
                                                   : TopBar::Page::Tryout;
    place.project = qs(session_.project().name);
    const auto* source = qobject_cast<SourcePage*>(page);
    place.piece = source ? QFileInfo(source->file()).fileName() : workbench_->piece();
    place.hasProject = session_.isOpen();
    if (sheet) {
        place.platform = qs(sheet->name);
        place.canBuild = !sheet->deliverable.empty();
        place.canTry = !sheet->standIn.empty();
    }
    bar_->setPlace(place);
}

void MainWindow::setDemo(const QString& file) {
    demo_ = DemoProject(file);
    start_->setDemo(demo_.file());
}

void MainWindow::openDemo() {
    demo_.provide(
        session_.jobs(), this, [this] { openProject(demo_.file()); },
        [this](const QString& problem) { report(problem); });
}

void MainWindow::showLoom() {
    if (!session_.isOpen()) return showStart();
    showPage(loom_);
    loom_->focusTable();
}

void MainWindow::showWorkbench(const QString& piece, const QString& platform) {
    if (!session_.sheet(platform.toStdString()) || !session_.project().piece(piece.toStdString())) return;
    const auto* p = session_.project().piece(piece.toStdString());
    if (!p->on(platform.toStdString()))
        session_.editCrossing(tr("set up %1").arg(piece), piece, platform, [](project::Crossing&) {});
    workbench_->open(piece, platform);
    showPage(workbench_);
    workbench_->view().setFocus();
}

void MainWindow::backToWorkbench() {
    showWorkbench(workbench_->piece(), workbench_->platform());
}

void MainWindow::suggestFor(const QString& piece, const QString& platform) {
    showWorkbench(piece, platform);
    workbench_->suggest();
}

void MainWindow::setUnattended() {
    isUnattended_ = true;
    session_.setAutosaves(false);
}

void MainWindow::report(const QString& text) {
    if (isUnattended_) {
        std::cerr << "zest-loom: " << text.toStdString() << '\n';
        return;
    }
    QMessageBox box(QMessageBox::NoIcon, "Zest Loom", text, QMessageBox::NoButton, this);
    box.addButton(tr("Close"), QMessageBox::AcceptRole);
    box.exec();
}

bool MainWindow::openProject(const QString& file) {
    if (!mayLeave()) return false;
    try {
        bool recover = false;
        const std::filesystem::path path = file.toStdString();
        if (session_.autosaves() && project::hasUnsavedWork(path)) {
            QMessageBox box(QMessageBox::NoIcon, "Zest Loom",
                            tr("There is work on this project that was not saved when the program ended."),
                            QMessageBox::NoButton, this);
            auto* take = box.addButton(tr("Recover it"), QMessageBox::AcceptRole);
            box.addButton(tr("Open as saved"), QMessageBox::RejectRole);
            box.exec();
            recover = box.clickedButton() == take;
        }
        session_.openProject(path, recover);
    } catch (const Error& error) {
        report(qs(error.whole()));
        return false;
    }
    remember(file);
    for (const QString& problem : session_.sheetProblems())
        status_->say(tr("A platform sheet was left out: %1").arg(problem));
    showLoom();
    return true;
}

void MainWindow::takeUp(const QString& file) {
    try {
        session_.takeUp(file.toStdString());
        showLoom();
    } catch (const Error& error) {
        report(qs(error.whole()));
    }
}

void MainWindow::remember(const QString& file) {
    QStringList recent = QSettings().value("recent").toStringList();
    const QString whole = QFileInfo(file).absoluteFilePath();
    recent.removeAll(whole);
    recent.prepend(whole);
    QSettings().setValue("recent", recent.mid(0, 12));
}

void MainWindow::newProject() {
    if (!mayLeave()) return;
    session_.newProject();
    showPlatforms();
}

void MainWindow::showPlatforms() {
    if (!session_.isOpen()) return;
    platforms_->ask();
    showPage(platforms_);
}

bool MainWindow::save() {
    if (!session_.isOpen()) return false;
    QString file = qs(session_.project().file.string());
    if (file.isEmpty())
        file = QFileDialog::getSaveFileName(this, tr("Save the project"), {},
                                            tr("Zest Loom projects (*.zestloom)"));
    if (file.isEmpty()) return false;
    try {
        session_.saveAs(file.toStdString());
    } catch (const Error& error) {
        report(qs(error.whole()));
        return false;
    }
    remember(qs(session_.project().file.string()));
    status_->say(tr("Saved"));
    return true;
}

bool MainWindow::mayLeave() {
    if (!session_.isOpen() || session_.undo().isClean()) return true;
    const Leaving leaving =
        askHowToLeave(this, tr("\"%1\" has changes that are not saved.").arg(qs(session_.project().name)));
    if (leaving == Leaving::Drop) session_.close();
    return leaving == Leaving::Drop || (leaving == Leaving::Save && save());
}

void MainWindow::build() {
    if (pages_->currentWidget() != workbench_) return;
    workbench_->setStage(steps::Stage::Deliver);
    workbench_->deliver().build();
}

void MainWindow::buildAll() {
    if (!session_.isOpen()) return;
    const auto& project = session_.project();
    const QString folder =
        project.file.empty()
            ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) + "/delivered"
            : qs((project.folder() / "delivered").string());
    using Results = std::vector<project::BuiltCrossing>;
    session_.jobs().start<Results>(
        tr("Building all that fit"), this,
        [copy = std::make_shared<const project::Project>(project), sheets = session_.sheets(),
         sources = session_.sources(), folder](const Progress& progress) {
            project::BuildAllOptions options;
            options.out = folder.toStdString();
            return project::buildAll(*copy, sheets, *sources, options, progress);
        },
        [this, folder](const Results& results) {
            auto* dialog = new BuildAllDialog(results, folder, this);
            dialog->setAttribute(Qt::WA_DeleteOnClose);
            dialog->open();
        },
        [this](const QString& problem) { report(problem); }, Urgency::Asked);
}

void MainWindow::tryOut() {
    const auto sheet = session_.sheet(workbench_->platform().toStdString());
    if (!session_.isOpen() || !sheet || sheet->standIn.empty() || pages_->currentWidget() == loom_ ||
        pages_->currentWidget() == start_)
        return;
    workbench_->deliver().show(workbench_->piece(), workbench_->platform());
    workbench_->deliver().build([this](const QString& folder) {
        showPage(tryout_);
        if (const auto sheet = session_.sheet(workbench_->platform().toStdString()))
            tryout_->load(folder, sheet->standIn, sheet);
    });
}

void MainWindow::openSettings() {
    auto* dialog = new SettingsDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::openAbout() {
    auto* dialog = new AboutDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    const bool sheetStays = pages_->currentWidget() == sheet_ && !sheet_->mayLeave();
    if (sheetStays || !package_->mayLeave([this] { close(); }) || !mayLeave()) return event->ignore();
    QSettings().setValue("windowSize", size());
    session_.jobs().cancelAll();
    event->accept();
}

} // namespace zl::app
