#include "app/main_window.h"

#include "app/qt_text.h"
#include "app/pages/build_all_dialog.h"
#include "app/pages/find_box.h"
#include "app/pages/settings_dialog.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/formats/format.h"

#include <QCloseEvent>
#include <QFileDialog>
#include <QLabel>
#include <QMessageBox>
#include <QMimeData>
#include <QProcess>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QStandardPaths>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace zl::app {

namespace {

QString modelFilter() {
    QString endings;
    for (const auto& format : formats::allFormats())
        if (format.read)
            for (const auto extension : format.extensions) endings += " *." + qs(extension);
    return QObject::tr("Models (%1);;All files (*)").arg(endings.trimmed());
}
} // namespace

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
    makeTopBar(layout);
    pages_ = new QStackedWidget;
    layout->addWidget(pages_, 1);
    start_ = new StartPage;
    loom_ = new LoomPage(session_);
    workbench_ = new WorkbenchPage(session_);
    tryout_ = new TryoutPage(session_);
    for (QWidget* page : {static_cast<QWidget*>(start_), static_cast<QWidget*>(loom_),
                          static_cast<QWidget*>(workbench_), static_cast<QWidget*>(tryout_)})
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
    connect(start_, &StartPage::demoAsked, this, &MainWindow::openDemo);
    connect(loom_, &LoomPage::openAsked, this, &MainWindow::showWorkbench);
    connect(loom_, &LoomPage::suggestAsked, this, &MainWindow::suggestFor);
    connect(loom_, &LoomPage::bringInAsked, this, &MainWindow::bringIn);
    connect(&session_.undo(), &QUndoStack::indexChanged, this, [this] {
        undo_->setEnabled(session_.undo().canUndo());
        undo_->setToolTip(session_.undo().canUndo() ? tr("Undo: %1 (Ctrl+Z)").arg(session_.undo().undoText())
                                                    : tr("Nothing to undo (Ctrl+Z)"));
    });
    connect(&session_, &Session::saveStateChanged, this,
            [this] { setWindowModified(!session_.undo().isClean()); });
    makeActions();
    showStart();
}

void MainWindow::makeTopBar(QVBoxLayout* into) {
    auto* bar = new QWidget;
    bar->setObjectName("topBar");
    bar->setAttribute(Qt::WA_StyledBackground);
    bar->setFixedHeight(48);
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(14, 0, 14, 0);
    layout->setSpacing(9);
    home_ = button("", "quiet");
    home_->setObjectName("home");
    home_->setAccessibleName(tr("Loom"));
    home_->setToolTip(tr("To the Loom (Ctrl+0)"));
    auto* brand = new QLabel(home_);
    brand->setAttribute(Qt::WA_TransparentForMouseEvents);
    const auto paint = [brand] {
        brand->setText(QString("zest<span style='color:%1'>·</span>loom").arg(tokens().zest.name()));
    };
    paint();
    connect(&Theme::instance(), &Theme::changed, brand, paint);
    brand->setFont(Theme::instance().heading(18));
    brand->move(4, 4);
    brand->adjustSize();
    home_->setFixedSize(brand->sizeHint().width() + 12, 32);
    layout->addWidget(home_);
    crumbs_ = textLabel("");
    crumbs_->setWordWrap(false);
    crumbs_->setTextFormat(Qt::RichText);
    crumbs_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    layout->addWidget(crumbs_, 1);
    find_ = button(tr("Find a piece, step or command…"), nullptr, "search");
    find_->setObjectName("find");
    find_->setToolTip(tr("Find anything (Ctrl+K)"));
    bring_ = button(tr("Bring in…"), nullptr, "plus");
    bring_->setObjectName("bringIn");
    bring_->setToolTip(tr("Bring models in (Ctrl+I)"));
    undo_ = button(tr("Undo"), nullptr, "undo-2");
    undo_->setObjectName("undo");
    undo_->setEnabled(false);
    undo_->setToolTip(tr("Nothing to undo (Ctrl+Z)"));
    buildAll_ = button(tr("Build all that fit"), "main", "hammer");
    buildAll_->setObjectName("buildAll");
    buildAll_->setToolTip(
        tr("Write the files of every crossing that fits; unchanged ones are left alone (Ctrl+Shift+B)"));
    suggest_ = button(tr("Suggest a fit"), nullptr, "wand-sparkles");
    suggest_->setObjectName("suggest");
    suggest_->setToolTip(tr("Steps that make every limit hold (Ctrl+G)"));
    build_ = button(tr("Build"), "main", "hammer");
    build_->setObjectName("build");
    build_->setToolTip(tr("Write the platform's files (Ctrl+B)"));
    try_ = button(tr("Try it"), "strong", "play");
    try_->setObjectName("try");
    try_->setToolTip(tr("Build, then try the files in the stand-in (F5)"));
    back_ = button(tr("Back to the workbench"));
    back_->setObjectName("back");
    back_->setToolTip(tr("Back to the workbench (Esc)"));
    again_ = button(tr("Deliver again"), "main", "rotate-ccw");
    again_->setObjectName("again");
    again_->setToolTip(tr("Build and load once more (F5)"));
    auto* settings = iconButton("settings", tr("Settings (Ctrl+,)"));
    settings->setObjectName("settingsButton");
    for (QWidget* widget :
         {static_cast<QWidget*>(find_), static_cast<QWidget*>(bring_), static_cast<QWidget*>(undo_),
          static_cast<QWidget*>(buildAll_), static_cast<QWidget*>(suggest_), static_cast<QWidget*>(build_),
          static_cast<QWidget*>(try_), static_cast<QWidget*>(back_), static_cast<QWidget*>(again_),
          static_cast<QWidget*>(settings)})
        layout->addWidget(widget);
    into->addWidget(bar);
    connect(home_, &QPushButton::clicked, this, &MainWindow::showLoom);
    connect(find_, &QPushButton::clicked, this, [this] { openFind(); });
    connect(bring_, &QPushButton::clicked, this, &MainWindow::bringIn);
    connect(undo_, &QPushButton::clicked, &session_.undo(), &QUndoStack::undo);
    connect(suggest_, &QPushButton::clicked, this, [this] { workbench_->suggest(); });
    connect(buildAll_, &QPushButton::clicked, this, &MainWindow::buildAll);
    connect(build_, &QPushButton::clicked, this, &MainWindow::build);
    connect(try_, &QPushButton::clicked, this, &MainWindow::tryOut);
    connect(back_, &QPushButton::clicked, this,
            [this] { showWorkbench(workbench_->piece(), workbench_->platform()); });
    connect(again_, &QPushButton::clicked, this, &MainWindow::tryOut);
    connect(settings, &QAbstractButton::clicked, this, &MainWindow::openSettings);
}

void MainWindow::makeActions() {
    const auto onWorkbench = [this] { return pages_->currentWidget() == workbench_; };
    commands_ = {
        {tr("New project"), QKeySequence::New, [this] { newProject(); }},
        {tr("Open a project"), QKeySequence::Open, [this] { Q_EMIT start_->openAsked(); }},
        {tr("Save"), QKeySequence::Save, [this] { save(); }},
        {tr("Bring in models"), QKeySequence("Ctrl+I"), [this] { bringIn(); }},
        {tr("Undo"), QKeySequence::Undo, [this] { session_.undo().undo(); }},
        {tr("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.undo().redo(); }},
        {tr("Go to the Loom"), QKeySequence("Ctrl+0"), [this] { showLoom(); }},
        {tr("Find anything"), QKeySequence("Ctrl+K"), [this] { openFind(); }},
        {tr("Suggest a fit"), QKeySequence("Ctrl+G"),
         [this, onWorkbench] {
             if (onWorkbench()) workbench_->suggest();
         }},
        {tr("Build"), QKeySequence("Ctrl+B"), [this] { build(); }},
        {tr("Build all that fit"), QKeySequence("Ctrl+Shift+B"), [this] { buildAll(); }},
        {tr("Try it"), QKeySequence("F5"), [this] { tryOut(); }},
        {tr("Settings"), QKeySequence("Ctrl+,"), [this] { openSettings(); }},
        {tr("Switch between light and dusk"),
         {},
         [] {
             Theme::instance().setDusk(!Theme::instance().isDusk());
             QSettings().setValue("dusk", Theme::instance().isDusk());
         }},
        {tr("Close the project"), QKeySequence("Ctrl+W"),
         [this] {
             if (mayLeave()) session_.close(), showStart();
         }},
        {tr("Quit"), QKeySequence::Quit, [this] { close(); }},
    };
    for (const Command& command : commands_) {
        if (command.keys.isEmpty()) continue;
        auto* shortcut = new QShortcut(command.keys, this);
        connect(shortcut, &QShortcut::activated, this, command.run);
    }
    auto* back = new QShortcut(Qt::Key_Escape, tryout_);
    back->setContext(Qt::WidgetWithChildrenShortcut);
    connect(back, &QShortcut::activated, this,
            [this] { showWorkbench(workbench_->piece(), workbench_->platform()); });
}

void MainWindow::showPage(QWidget* page) {
    pages_->setCurrentWidget(page);
    const bool start = page == start_, loom = page == loom_, bench = page == workbench_,
               trying = page == tryout_;
    const auto sheet = session_.sheet(workbench_->platform().toStdString());
    find_->setVisible(!trying);
    bring_->setVisible(loom);
    undo_->setVisible(loom || bench);
    buildAll_->setVisible(loom);
    suggest_->setVisible(bench);
    build_->setVisible(bench && sheet && !sheet->deliverable.empty());
    try_->setVisible(bench && sheet && !sheet->standIn.empty());
    back_->setVisible(trying);
    again_->setVisible(trying);
    home_->setEnabled(!start || session_.isOpen());
    showCrumbs();
}

void MainWindow::showCrumbs() {
    const QWidget* page = pages_->currentWidget();
    const auto sheet = session_.sheet(workbench_->platform().toStdString());
    const QString project = qs(session_.project().name).toHtmlEscaped(), dim = tokens().dim.name();
    const QString platform = sheet ? qs(sheet->name).toHtmlEscaped() : QString();
    if (page == start_)
        crumbs_->clear();
    else if (page == loom_)
        crumbs_->setText(QString("<span style='color:%1'>%2</span>").arg(dim, project));
    else // where there is little room, the project's name is the first to go
        crumbs_->setText(QString("<span style='color:%1'>%2</span><b>%3</b> <span "
                                 "style='color:%1'>%4</span> <b>%5</b>")
                             .arg(dim, width() < 1240 ? QString() : project + "  /  ",
                                  workbench_->piece().toHtmlEscaped(), page == tryout_ ? " trial on" : " on",
                                  platform));
}

void MainWindow::showStart() {
    QStringList recent;
    for (const QString& file : QSettings().value("recent").toStringList())
        if (QFile::exists(file)) recent << file;
    start_->setRecent(session_.autosaves() ? recent.mid(0, 6)
                                           : QStringList()); // pictures show nobody's folders
    start_->setDemo(demo_);
    showPage(start_);
}

void MainWindow::setDemo(const QString& file) {
    generator_ =
        QStandardPaths::findExecutable("zest-loom-demo-data", {QCoreApplication::applicationDirPath()});
    demo_ = file;
    if (demo_.isEmpty() && !generator_.isEmpty()) {
        const QString beside = QCoreApplication::applicationDirPath() + "/../demo";
        const QString folder =
            QDir(beside).exists()
                ? QDir::cleanPath(beside)
                : QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/zest-loom/demo";
        demo_ = folder + "/bergamot-quay.zestloom";
    }
    start_->setDemo(demo_);
}

void MainWindow::openDemo() {
    if (QFile::exists(demo_)) {
        openProject(demo_);
        return;
    }
    session_.jobs().start<bool>(
        tr("Making the harvest fair"), this,
        [generator = generator_, folder = QFileInfo(demo_).absolutePath()](const Progress& progress) {
            progress.report(0.1, "casting the bell");
            QProcess process;
            process.start(generator, {folder});
            if (!process.waitForFinished(120000) || process.exitCode() != 0)
                throw Error("the demo data could not be made", folder.toStdString(),
                            process.readAllStandardError().trimmed().toStdString());
            return true;
        },
        [this](bool) { openProject(demo_); }, [this](const QString& problem) { report(problem); });
}

void MainWindow::showLoom() {
    if (!session_.isOpen()) return showStart();
    showPage(loom_);
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

void MainWindow::suggestFor(const QString& piece, const QString& platform) {
    showWorkbench(piece, platform);
    workbench_->suggest();
}

void MainWindow::report(const QString& text) {
    QMessageBox box(QMessageBox::NoIcon, "Zest Loom", text, QMessageBox::NoButton, this);
    box.addButton(tr("Close"), QMessageBox::AcceptRole);
    box.exec();
}

bool MainWindow::openProject(const QString& file) {
    if (!mayLeave()) return false;
    try {
        bool recover = false;
        const std::filesystem::path path = file.toStdString();
        if (session_.autosaves() && project::hasNewerAutosave(path)) {
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
    showLoom();
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
    QMessageBox box(QMessageBox::NoIcon, "Zest Loom",
                    tr("\"%1\" has changes that are not saved.").arg(qs(session_.project().name)),
                    QMessageBox::NoButton, this);
    auto* keep = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* drop = box.addButton(tr("Leave without saving"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == drop) {
        session_.close();
        return true;
    }
    return box.clickedButton() == keep && save();
}

void MainWindow::bringIn() {
    if (!session_.isOpen()) newProject();
    const QStringList files = QFileDialog::getOpenFileNames(this, tr("Bring in models"), {}, modelFilter());
    session_.bringIn(files);
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
        [this](const QString& problem) { report(problem); }, 20);
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
            tryout_->load(folder, sheet->standIn);
    });
}

void MainWindow::openFind(const QString& text) {
    std::vector<Findable> all;
    if (session_.isOpen()) {
        for (const auto& piece : session_.project().pieces)
            for (const auto& id : session_.project().platforms)
                if (const auto sheet = session_.sheet(id))
                    all.push_back(
                        {tr("%1 on %2").arg(qs(piece.name), qs(sheet->name)), tr("piece"),
                         [this, piece = qs(piece.name), id = qs(id)] { showWorkbench(piece, id); }});
        for (const auto& sheet : session_.sheets()) {
            const bool inLoom = std::ranges::find(session_.project().platforms, sheet->id) !=
                                session_.project().platforms.end();
            all.push_back({qs(sheet->name), inLoom ? tr("platform") : tr("platform, add to the Loom"),
                           [this, id = sheet->id, inLoom, name = qs(sheet->name)] {
                               if (!inLoom)
                                   session_.edit(tr("add %1").arg(name),
                                                 [&](project::Project& p) { p.platforms.push_back(id); });
                               showLoom();
                               if (!session_.project().pieces.empty())
                                   loom_->select(qs(session_.project().pieces.front().name), qs(id));
                           }});
        }
        if (pages_->currentWidget() == workbench_)
            for (const auto& step : steps::allSteps())
                all.push_back({tr("Add %1").arg(qs(step->info().name)),
                               tr("step, %1").arg(stageTitle(step->info().stage)),
                               [this, id = std::string(step->info().id)] { workbench_->addStep(id); }});
    }
    for (const Command& command : commands_)
        all.push_back({command.name,
                       command.keys.isEmpty()
                           ? tr("command")
                           : tr("command, %1").arg(command.keys.toString(QKeySequence::NativeText)),
                       command.run});
    auto* box = new FindBox(std::move(all), this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->type(text);
    box->open();
}

void MainWindow::openSettings() {
    auto* dialog = new SettingsDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    if (pages_) showCrumbs();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!mayLeave()) return event->ignore();
    QSettings().setValue("windowSize", size());
    session_.jobs().cancelAll();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList models;
    for (const QUrl& url : event->mimeData()->urls()) {
        const QString file = url.toLocalFile();
        if (file.endsWith(".zestloom")) {
            openProject(file);
            return;
        }
        try {
            formats::formatToRead(file.toStdString());
            models << file;
        } catch (const Error& error) {
            status_->say(qs(error.whole()));
        }
    }
    if (models.isEmpty()) return;
    if (!session_.isOpen()) newProject();
    session_.bringIn(models);
    if (pages_->currentWidget() == start_) showLoom();
    event->acceptProposedAction();
}

} // namespace zl::app
