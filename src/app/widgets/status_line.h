#pragma once
#include "app/session.h"

#include <QTimer>
#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace zl::app {

/// The bottom line: what just happened, long work with progress, time left and Cancel, a way to go on with
/// what was stopped, and the save state.
class StatusLine : public QWidget {
    Q_OBJECT
public:
    StatusLine(Session& session, QWidget* parent);
    void say(const QString& text);

private:
    void showJobs();
    void showSaved();
    Session& session_;
    QLabel *text_, *work_, *saved_;
    QProgressBar* bar_;
    QPushButton *cancel_, *goOn_;
    QTimer later_; ///< until young jobs are old enough to be told of
};

} // namespace zl::app
