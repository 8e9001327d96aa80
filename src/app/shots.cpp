#include "app/shots.h"

#include "app/game/log_panel.h"
#include "app/main_window.h"
#include "app/pages/endings_dialog.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QThread>
#include <QTreeView>

#include <iostream>

namespace zl::app {

namespace {

/// Handles events until `done` holds; false after three minutes.
bool waitFor(const std::function<bool()>& done) {
    QElapsedTimer clock;
    clock.start();
    while (!done()) {
        if (clock.elapsed() > 180000) return false;
        QApplication::processEvents(QEventLoop::AllEvents, 20);
        QThread::msleep(2);
    }
    return true;
}

void pause(int milliseconds) {
    QElapsedTimer clock;
    clock.start();
    waitFor([&] { return clock.elapsed() >= milliseconds; });
}

bool settle(MainWindow& window) {
    const bool idle = waitFor([&] { return window.session().jobs().running().isEmpty(); });
    pause(250);
    return idle && waitFor([&] { return window.session().jobs().running().isEmpty(); });
}

/// The stand-in has loaded the files, and come to its verdict.
bool tried(MainWindow& window) {
    if (!waitFor([&] { return window.tryout().isReady(); })) return false;
    const auto* arena = window.tryout().view().arena();
    if (arena && !waitFor([&] { return !arena->isChecking(); })) return false;
    pause(800);
    return true;
}

QDialog* openDialog(MainWindow& window) {
    for (QDialog* dialog : window.findChildren<QDialog*>())
        if (dialog->isVisible()) return dialog;
    return nullptr;
}

} // namespace

bool takeShot(MainWindow& window, const Shot& shot) {
    const auto fail = [](const char* why) {
        std::cerr << "zest-loom: " << why << std::endl;
        return false;
    };
    pause(300);
    if (!settle(window)) return fail("the work did not end in time");
    const bool needsPiece =
        shot.view == "workbench" || shot.view == "tryout" || shot.view == "plan" || shot.view == "chain";
    const QString wantedStage = shot.view == "chain" ? QString("deliver") : shot.stage;
    if (needsPiece) {
        window.showWorkbench(shot.piece, shot.platform);
        if (!settle(window)) return fail("the work did not end in time");
        if (shot.fit || shot.view == "plan") {
            window.workbench().suggest();
            if (!waitFor([&] { return window.workbench().isOffering(); })) return fail("no plan came");
            if (shot.fit) {
                if (auto* apply = window.findChild<QPushButton*>("planApply")) apply->click();
            }
            if (!settle(window)) return fail("the work did not end in time");
        }
        for (const auto stage : StageRail::stages())
            if (shot.view != "plan" && stageTitle(stage).toLower() == wantedStage)
                window.workbench().setStage(stage);
        if (!shot.modes.isEmpty() && !settle(window)) return fail("the work did not end in time");
        for (const QString& mode : shot.modes) {
            if (shot.view == "tryout") break; // what is pressed there comes later
            window.workbench().showMode(mode.section('=', 0, 0), mode.section('=', 1) != "off");
            if (!settle(window))
                return fail("the work did not end in time"); // the next may need what it shows
        }
        if (!shot.rule.isEmpty()) window.workbench().chooseRule(shot.rule);
        if (wantedStage == "deliver") {
            window.build();
            settle(window);
            if (auto* run = window.findChild<QPushButton*>("runChain")) run->click();
        }
        if (!settle(window)) return fail("the work did not end in time");
    }
    if (shot.view == "tryout") {
        window.tryOut();
        if (!tried(window)) return fail("no verdict came");
        for (const QString& mode : shot.modes) {
            if (mode.section('=', 0, 0) == "like") {
                window.tryout().compareWith(mode.section('=', 1));
                if (!tried(window)) return fail("no verdict came");
                continue;
            }
            if (mode.section('=', 0, 0) == "folder") {
                window.tryout().loadOther(mode.section('=', 1));
                if (!tried(window)) return fail("no verdict came");
                continue;
            }
            auto* does = window.tryout().findChild<QPushButton*>("try-" + mode);
            if (!does) return fail("there is no such button");
            does->click();
            pause(6500); // steps are taken, balls have flown
        }
    }
    if (shot.view == "game") {
        window.showGame(shot.piece, shot.platform);
        if (!settle(window)) return fail("the work did not end in time");
        for (const QString& mode : shot.modes) {
            if (mode.section('=', 0, 0) == "log") window.gamePage().log().watch(mode.section('=', 1));
            if (auto* does = window.gamePage().findChild<QPushButton*>(mode)) does->click();
            if (!settle(window)) return fail("the work did not end in time");
        }
    }
    if (shot.view == "start") window.showStart();
    if (shot.view == "platforms") window.showPlatforms();
    if (shot.view == "sheet") {
        window.showSheet(shot.platform);
        settle(window);
        for (const QString& mode : shot.modes) {
            if (mode == "text") window.sheetPage().showText(true);
            if (auto* part = window.sheetPage().findChild<QAbstractButton*>("part-" + mode)) part->click();
        }
        pause(400);
        settle(window);
    }
    if (shot.view == "learn") {
        window.showLearn(shot.piece);
        settle(window);
        window.learnPage().choose(shot.rule);
        if (auto* files = window.learnPage().findChild<QListWidget*>("propertyFiles"))
            files->setCurrentRow(0);
        settle(window);
    }
    if (shot.view == "suggested") {
        window.loom().suggestForAll();
        settle(window);
    }
    if (shot.view == "contents") {
        if (!waitFor([&] { return window.contents().isSettled(); })) return fail("the archive was not read");
        settle(window);
        if (auto* tree = window.contents().findChild<QTreeView*>("contentsTree")) {
            const auto found = tree->model()->match(tree->model()->index(0, 0), Qt::DisplayRole, shot.piece,
                                                    1, Qt::MatchExactly | Qt::MatchRecursive);
            if (!found.isEmpty()) tree->setCurrentIndex(found[0]);
        }
        settle(window);
    }
    if (shot.view == "catalogue") {
        if (!waitFor([&] { return window.catalogue().isSettled(); }))
            return fail("the catalogue was not read");
        settle(window);
        window.catalogue().choose(shot.piece);
        settle(window);
    }
    if (shot.view == "package") {
        if (!waitFor([&] { return window.package().isSettled(); })) return fail("the package was not read");
        settle(window);
        window.package().choose(shot.piece);
    }
    if (shot.view == "loom" && !shot.piece.isEmpty()) window.loom().select(shot.piece, shot.platform);
    if (shot.view == "chain") {
        if (auto* run = window.findChild<QPushButton*>("compareChains")) run->click();
        if (QDialog* dialog = openDialog(window))
            if (auto* run = dialog->findChild<QPushButton*>("chainRun")) run->click();
        settle(window);
    }
    if (shot.view == "built") {
        window.buildAll();
        settle(window);
    }
    if (shot.view == "find") window.openFind();
    if (shot.view == "settings") window.openSettings();
    if (shot.view == "endings") (new EndingsDialog(&window))->open();
    if (shot.view == "about") window.openAbout();
    if (shot.view == "workbench" && !waitFor([&] { return window.workbench().isSettled(); }))
        return fail("the view was not drawn in time");
    pause(900);
    QPixmap picture = window.grab();
    if (QDialog* dialog = openDialog(window)) {
        QPainter painter(&picture);
        painter.fillRect(picture.rect(), QColor(0, 0, 0, 60));
        const QPixmap top = dialog->grab();
        painter.drawPixmap((picture.width() - top.width()) / 2, (picture.height() - top.height()) / 2, top);
    }
    return picture.save(shot.file) || fail("the picture cannot be written there");
}

} // namespace zl::app
