#pragma once
#include "app/disk_watch.h"
#include "app/session.h"

#include "core/platform/game_log.h"

#include <QTimer>
#include <QWidget>

class QLabel;
class QPlainTextEdit;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

class LogPatternCard;

/// A game's log, pasted or watched: lines that the platform's sheet knows in words with what mends them, and
/// those that it does not, to be made known.
class LogPanel : public QWidget {
    Q_OBJECT
public:
    explicit LogPanel(Session& session, QWidget* parent = nullptr);

    /// For the sheet of a platform; its log is watched again where it was before.
    void open(const QString& platform);
    /// Reads the file, and again whenever it changes.
    void watch(const QString& file);
    void readText(const QString& text);
    bool isSettled() const { return !soon_.isActive() && !reading_; }

Q_SIGNALS:
    void ruleAsked(const QString& rule);

private:
    struct Read {
        std::vector<platform::LogLine> lines;
        SheetPointer sheet; ///< which the lines' patterns belong to
    };

    void read();
    void show();
    void showKnown(const platform::LogLine& line, std::size_t times);
    void showUnknown(const platform::LogLine& line, std::size_t times);
    void makeKnown(const QString& text);
    void keep(const platform::LogPattern& pattern);

    Session& session_;
    QString platform_, file_;
    DiskWatch disk_;
    QTimer soon_;
    bool reading_ = false, again_ = false;
    QString problem_;
    Read read_;
    QLabel* watched_;
    QPushButton* stop_;
    QPlainTextEdit* text_;
    LogPatternCard* pattern_;
    QVBoxLayout* rows_;
};

} // namespace zl::app
