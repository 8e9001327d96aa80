#pragma once
#include "app/session.h"

#include <QWidget>

class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

class PlatformCard;

/// Which platforms one makes for: every sheet as a card with what it is and what it wants, found by typing,
/// several chosen at once.
class PlatformsPage : public QWidget {
    Q_OBJECT
public:
    explicit PlatformsPage(Session& session, QWidget* parent = nullptr);

    /// Asks with the project's platforms chosen, or for a project without any those that were chosen last.
    void ask();

Q_SIGNALS:
    /// The ids in the order of the cards, those that the project has first.
    void chosen(const std::vector<std::string>& platforms);
    void left();
    /// A sheet is to be made out of files that a game takes: those in a folder, or chosen there.
    void learnAsked(const QString& folder);
    /// A sheet is to be looked at and changed; empty for a new one.
    void sheetAsked(const QString& sheet);
    /// A sheet that somebody gave away is to be taken in.
    void takeInAsked(const QString& package);

protected:
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    /// Sheets that are others than the project was saved with.
    void showChanged();
    void layCards();
    void refreshWords();
    std::vector<std::string> ticked() const;

    Session& session_;
    QLabel *title_, *words_, *none_;
    QLineEdit* filter_;
    QVBoxLayout* changed_;
    QWidget* field_;
    QGridLayout* grid_;
    QPushButton *begin_, *leave_;
    std::vector<PlatformCard*> cards_;
};

} // namespace zl::app
