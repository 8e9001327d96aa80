#pragma once
#include "app/session.h"

#include "core/learn/game_said.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

class LogPanel;

/// What the real game said of a delivered piece: taken or refused, and why; what sets it apart from what was
/// taken, with the limit that this suggests; and the game's own log in words. All of it is kept in the sheet.
class GamePage : public QWidget {
    Q_OBJECT
public:
    explicit GamePage(Session& session, QWidget* parent = nullptr);

    /// Of the files that were delivered into the folder.
    void open(const QString& piece, const QString& platform, const QString& folder);
    /// The delivered files were looked at.
    bool isSettled() const { return !looking_; }
    LogPanel& log() { return *log_; }

Q_SIGNALS:
    void left();
    /// A limit of the platform was chosen, to be seen on the piece.
    void ruleAsked(const QString& rule);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    enum class Said { Nothing, Accepted, Refused };

    QWidget* makeAnswer();
    void look();
    void say(Said said);
    void showReasons();
    /// Rules that said so before the game did.
    std::vector<const platform::RuleResult*> foreseen() const;
    void showDifference(const learn::Difference& one);
    void showEarlier();
    void keep();
    void takeBack(std::size_t answer);

    Session& session_;
    QString piece_, platform_, folder_;
    platform::GameAnswer traits_; ///< of the delivered files
    QString problem_;             ///< why nothing is known of them
    QPointer<Job> looking_;
    Said said_ = Said::Nothing;
    QString taken_; ///< the property whose limit goes into the sheet
    QLabel *title_, *files_;
    QPushButton *accepted_, *refused_, *keep_;
    QLineEdit *because_, *note_;
    QVBoxLayout *reasons_, *earlier_;
    LogPanel* log_;
};

} // namespace zl::app
