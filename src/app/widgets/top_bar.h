#pragma once
#include <QWidget>

class QLabel;
class QPushButton;

namespace zl::app {

/// The bar on top: the way home, where one is, and the actions of the page that is shown.
class TopBar : public QWidget {
    Q_OBJECT
public:
    enum class Page { Start, Loom, Contents, Workbench, Tryout, Game };
    /// Where one is; names that have no meaning on the page are empty.
    struct Place {
        Page page = Page::Start;
        QString project, piece, platform;
        bool hasProject = false;
        bool canBuild = false; ///< the platform takes files
        bool canTry = false;   ///< it has a stand-in
    };

    explicit TopBar(QWidget* parent = nullptr);

    void setPlace(const Place& place);
    /// What Undo would take back; empty when there is nothing.
    void setUndo(const QString& what);
    void setCanBuildAll(bool can);

Q_SIGNALS:
    void homeAsked();
    void findAsked();
    void bringInAsked();
    void undoAsked();
    void suggestAsked();
    void buildAllAsked();
    void buildAsked();
    void tryAsked();
    void backAsked();
    void settingsAsked();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void showCrumbs();

    Place place_;
    QLabel* crumbs_;
    QPushButton *home_, *find_, *bring_, *undo_, *suggest_, *buildAll_, *build_, *try_, *back_, *again_;
};

} // namespace zl::app
