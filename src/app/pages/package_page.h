#pragma once
#include "app/pages/package_rows.h"
#include "app/pages/source_page.h"

#include <QWidget>

#include <functional>

class QLabel;
class QLineEdit;
class QPushButton;
class QSortFilterProxyModel;
class QTreeView;

namespace zl::app {

class ResourcePanel;

/// A package of a game's item: its resources and how they refer to one another, checked; copied under names
/// of one's own.
class PackagePage : public SourcePage {
    Q_OBJECT
public:
    explicit PackagePage(Session& session, QWidget* parent = nullptr);

    void open(const QString& file);
    bool isSettled() const { return !reading_; }
    /// Asks what becomes of resources that are not saved. False to stay, also while they are being saved:
    /// `then` runs once they are.
    bool mayLeave(std::function<void()> then);
    /// Chooses the resource of this name.
    void choose(const QString& name);

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
    void save(std::function<void()> then = {});
    void makeMine();
    std::vector<std::string> prefixes() const;

    PackageRows rows_;
    QSortFilterProxyModel* filtered_;
    QTreeView* view_;
    ResourcePanel* panel_;
    QLineEdit *called_, *maker_;
    QLabel *state_, *verdict_, *findings_;
    QPushButton *mine_, *save_;
};

} // namespace zl::app
