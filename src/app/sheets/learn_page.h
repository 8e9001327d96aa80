#pragma once
#include "app/session.h"

#include "core/learn/evidence.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QTreeWidget;
class QTreeWidgetItem;

namespace zl::app {

class FileLook;

/// A sheet out of files that a game takes: a line for everything that they have in common, with what it
/// offers for the sheet, and the files behind each.
class LearnPage : public QWidget {
    Q_OBJECT
public:
    explicit LearnPage(Session& session, QWidget* parent = nullptr);

    /// Looks into a folder, or an archive, of accepted files.
    void learn(const QString& accepted, const QString& refused = {});
    /// Whether nothing is being looked at.
    bool isSettled() const { return !reading_; }
    const learn::Evidence* evidence() const { return evidence_.get(); }
    void choose(const QString& property);

Q_SIGNALS:
    void left();
    /// A sheet was written, and is known to the session.
    void made(const QString& sheet);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    QWidget* makeHead();
    QWidget* makeSide();
    void read();
    void show(const std::shared_ptr<learn::Evidence>& evidence);
    void showProperty();
    void showUnreadable();
    void showFile();
    void refreshWords();
    void choosePlace(bool refused, bool archive);
    std::set<std::string> taken() const;
    void make();

    Session& session_;
    QString accepted_, refused_;
    std::shared_ptr<learn::Evidence> evidence_;
    QPointer<Job> reading_;
    QLineEdit* name_;
    QLabel *acceptedWords_, *refusedWords_, *state_, *title_, *offer_;
    QPushButton *make_, *unreadable_;
    QTreeWidget* table_;
    QListWidget* files_;
    FileLook* look_; ///< into the chosen one
};

} // namespace zl::app
