// What is brought into the window: models, archives, catalogues, packages, figures, and what is dropped on
// it.
#include "app/main_window.h"

#include "app/qt_text.h"

#include "core/files/contents.h"
#include "core/base/file_set.h"
#include "core/figure/figure.h"
#include "core/formats/file_kind.h"
#include "core/formats/format.h"
#include "core/project/solids_document.h"

#include <QDragEnterEvent>
#include <QFileDialog>
#include <QMimeData>
#include <QStackedWidget>
#include <QStandardPaths>

#include <algorithm>

namespace zl::app {

namespace {

QString modelFilter() {
    QString endings;
    for (const auto& format : formats::allFormats())
        if (format.read)
            for (const auto extension : format.extensions) endings += " *." + qs(extension);
    for (const auto ending : files::containerEndings()) endings += " *" + qs(ending);
    return QObject::tr("Models and archives (%1);;All files (*)").arg(endings.trimmed());
}

} // namespace

void MainWindow::chooseModels() {
    if (!session_.isOpen()) newProject();
    bringIn(QFileDialog::getOpenFileNames(this, tr("Bring in models"), {}, modelFilter()));
}

void MainWindow::bringIn(const QStringList& files) {
    QStringList models;
    for (const QString& file : files) {
        const bool archive = formats::kindOf(file.toStdString()) == formats::FileKind::Archive;
        if (archive && QFileInfo(file).isFile())
            return file.endsWith(".rowpackage", Qt::CaseInsensitive) ? showPackage(file)
                   : catalogue::isCatalogue(file.toStdString())      ? showCatalogue(file)
                                                                     : showContents(file);
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
    leaveSource();
}

void MainWindow::takeIn(const std::vector<ItemSource>& items) {
    if (!session_.isOpen()) newProject();
    session_.bringIn(items);
    leaveSource();
}

void MainWindow::leaveSource() {
    const QWidget* page = pages_->currentWidget();
    if (page == contents_ || page == catalogue_ || page == package_)
        session_.project().platforms.empty() ? showPlatforms() : showLoom();
}

void MainWindow::showPackage(const QString& file) {
    package_->open(file);
    showPage(package_);
}

void MainWindow::showCatalogue(const QString& file) {
    catalogue_->open(file);
    showPage(catalogue_);
}

void MainWindow::showContents(const QString& archive) {
    contents_->open(archive);
    showPage(contents_);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls()) {
        const QString file = url.toLocalFile();
        if (file.endsWith(".zestsheet")) {
            takeInSheet(file);
            return;
        }
        const bool learns = pages_->currentWidget() == platforms_ || pages_->currentWidget() == learn_;
        if (learns && (QFileInfo(file).isDir() || files::isContainer(file.toStdString()))) {
            showLearn(file);
            return;
        }
        if (pages_->currentWidget() == tryout_ && QFileInfo(file).isDir()) {
            tryout_->loadOther(file);
            return;
        }
        if (file.endsWith(".zestloom")) {
            openProject(file);
            return;
        }
        files << file;
    }
    bringIn(files);
    event->acceptProposedAction();
}

void MainWindow::newScene() {
    if (!session_.isOpen()) newProject();
    const std::string name = session_.project().freeName(tr("Scene").toStdString());
    try {
        session_.addDocument(project::solidsKind, qs(name));
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
        return;
    }
    // On the platform that takes scenes, where the project makes for it.
    const auto& platforms = session_.project().platforms;
    std::string on = platforms.empty() ? std::string() : platforms[0];
    for (const std::string& id : platforms)
        if (const SheetPointer sheet = session_.sheet(id))
            if (platform::takesScenes(*sheet)) on = id;
    if (!on.empty()) showWorkbench(qs(name), qs(on));
}

void MainWindow::bringInFigure(const figure::Kind& kind) {
    if (!session_.isOpen()) newProject();
    // Beside the project, so that it goes where that goes; before it was saved, where pieces are kept.
    const std::filesystem::path folder =
        session_.project().file.empty()
            ? std::filesystem::path(
                  QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation).toStdString())
            : session_.project().folder();
    const std::filesystem::path file = folder / ("figure-" + std::string(kind.id) + ".glb");
    session_.jobs().start<QString>(
        tr("Making the figure"), this,
        [kind, file](const Progress& progress) {
            const auto files = formats::writeGlb(figure::figureOf(kind), {"figure"}, nullptr);
            progress.checkCancel();
            if (!std::filesystem::exists(file)) writeFile(file, files.at(0).bytes);
            return qs(file.string());
        },
        [this](const QString& made) {
            session_.bringIn(std::vector<ItemSource>{
                {"Figure", {made.toStdString(), "Zest Loom", "", project::Permission::OwnWork}}});
        },
        [this](const QString& problem) { report(problem); }, Urgency::Asked);
}

} // namespace zl::app
