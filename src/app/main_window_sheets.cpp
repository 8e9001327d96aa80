// Platforms' sheets: learnt, looked at, taken in.
#include "app/main_window.h"
#include "app/qt_text.h"
#include "app/sheets/taken_sheet_dialog.h"

#include "core/base/error.h"

namespace zl::app {

void MainWindow::showLearn(const QString& folder) {
    if (!session_.isOpen()) return;
    showPage(learn_);
    if (!folder.isEmpty()) learn_->learn(folder);
}

void MainWindow::showSheet(const QString& sheet) {
    if (!session_.isOpen()) return;
    sheet_->open(sheet);
    showPage(sheet_);
}

void MainWindow::showGame(const QString& piece, const QString& platform) {
    showWorkbench(piece, platform);
    if (workbench_->piece() != piece || workbench_->platform() != platform) return;
    game_->open(piece, platform, workbench_->deliver().folderOf(piece, platform));
    showPage(game_);
}

void MainWindow::takeInSheet(const QString& package) {
    if (!session_.isOpen()) return;
    try {
        auto* dialog = new TakenSheetDialog(session_, package, this);
        connect(dialog, &TakenSheetDialog::taken, this, [this](const QString& sheet) {
            takeSheet(sheet);
            showPlatforms();
        });
        connect(dialog, &TakenSheetDialog::failed, this, &MainWindow::report);
        dialog->open();
    } catch (const Error& error) {
        report(qs(error.whole()));
    }
}

void MainWindow::takeSheet(const QString& sheet) {
    auto platforms = session_.project().platforms;
    if (std::ranges::find(platforms, sheet.toStdString()) != platforms.end()) return;
    platforms.push_back(sheet.toStdString());
    session_.choosePlatforms(platforms);
}

} // namespace zl::app
