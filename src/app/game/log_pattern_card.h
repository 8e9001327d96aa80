#pragma once
#include "app/session.h"

#include "core/platform/game_log.h"

#include <QFrame>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTextEdit;

namespace zl::app {

/// A line of a log that is made known: which of its parts change from one time to the next, what it says in
/// words, and which limit it is about.
class LogPatternCard : public QFrame {
    Q_OBJECT
public:
    explicit LogPatternCard(QWidget* parent = nullptr);

    /// `lines` are those of the log, to see how many are meant.
    void begin(const QString& line, std::vector<std::string> lines, const SheetPointer& sheet);

Q_SIGNALS:
    void kept(const zl::platform::LogPattern& pattern);

private:
    /// What is selected changes, or, where it did already, no longer does.
    void turnSelected();
    void refresh();
    platform::LogPattern pattern() const;

    QTextEdit* line_;
    QLabel* outcome_;
    QLineEdit* says_;
    QComboBox* rule_;
    QCheckBox* refuses_;
    QPushButton* keep_;
    SheetPointer sheet_;
    std::vector<std::string> lines_;
    std::vector<platform::Range> changing_; ///< in bytes of the line's UTF-8
};

} // namespace zl::app
