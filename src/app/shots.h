#pragma once
#include <QString>
#include <QStringList>

namespace zl::app {

class MainWindow;

/// One picture of the window, for the docs and for looking at what users see.
struct Shot {
    QString file, view, piece, platform, stage;
    QStringList modes;
    QString rule;
    bool fit = false;
};

/// Goes to the view, waits until all work is done and drawn, and saves the window as PNG. False, with a word
/// on standard error, when it could not within three minutes.
bool takeShot(MainWindow& window, const Shot& shot);

} // namespace zl::app
