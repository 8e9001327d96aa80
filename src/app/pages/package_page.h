#pragma once
#include "app/pages/package_rows.h"
#include "app/session.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QSortFilterProxyModel;
class QTreeView;

namespace zl::app {

class ResourcePanel;

/// A package of a game's item: its resources and how they refer to one another, checked; copied under names
/// of one's own.
class PackagePage : public QWidget {
    Q_OBJECT
public:
    explicit PackagePage(Session& session, QWidget* parent = nullptr);

    void open(const QString& file);
    const QString& file() const { return file_; }
    bool isSettled() const { return !reading_; }
    /// Asks what becomes of resources that are not saved; false to stay.
    bool mayLeave();
    /// Chooses the resource of this name.
    void choose(const QString& name);

Q_SIGNALS:
    void left();
    void itemsAsked(const std::vector<ItemSource>& items);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    QWidget* makeSide();
    QWidget* makeMiddle();
    void show(const OpenPackage& opened);
    void showCheck(const package::ReferenceCheck& check);
    void chooseRow(int row);
    void makePiece();
    void takeOut();
    void putBack();
    void replace(int row, const std::string& bytes);
    void checkAgain();
    void save();
    void makeMine();
    std::vector<std::string> prefixes() const;

    Session& session_;
    QString file_;
    PackageRows rows_;
    QSortFilterProxyModel* filtered_;
    QTreeView* view_;
    ResourcePanel* panel_;
    QPointer<Job> reading_;
    QLineEdit *words_, *called_, *maker_;
    QLabel *count_, *state_, *verdict_, *findings_;
    QPushButton *mine_, *save_;
};

} // namespace zl::app
