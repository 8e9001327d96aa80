#pragma once
#include "app/pages/catalogue_list.h"
#include "app/pages/source_page.h"

#include <QTimer>
#include <QWidget>

class QButtonGroup;
class QLabel;
class QLineEdit;
class QListView;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

class ItemDelegate;
class ItemPanel;

/// A game's catalogue: thousands of items found by picture, words, pack, kind and whom they are for, and
/// taken out of it as pieces or as packages.
class CataloguePage : public SourcePage {
    Q_OBJECT
public:
    explicit CataloguePage(Session& session, QWidget* parent = nullptr);

    void open(const QString& file);
    /// Nothing is being read that the page waits for, and what is seen has its pictures.
    bool isSettled() const {
        return !reading_ && !fetching_ && !lookSoon_.isActive() && !fetchSoon_.isActive();
    }
    /// Chooses the item with this title.
    void choose(const QString& title);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Ticks { ///< of packs or kinds
        QVBoxLayout* layout = nullptr;
        std::set<std::string> leftOut;
    };
    QWidget* makeSide();
    QWidget* makeMiddle();
    void take(const std::shared_ptr<const catalogue::Catalogue>& opened);
    void fill(Ticks& ticks, const std::string catalogue::Entry::*of);
    void fillPrefixes();
    void look();
    void showChosen();
    void fetchPictures();
    void fetchModel();
    void arrange();
    /// On a figure of the project, unless that is empty.
    void makePieces(const std::string& figure);
    void takeOut();

    CatalogueList list_;
    QListView* view_;
    ItemDelegate* delegate_;
    ItemPanel* panel_;
    CatalogueFilter filter_;
    Ticks packs_, kinds_;
    QVBoxLayout* prefixes_;
    QPointer<Job> fetching_, measuring_;
    QTimer lookSoon_, fetchSoon_, chosenSoon_;
    QLabel *title_, *state_;
    QButtonGroup* order_;
    bool cards_ = true;
};

} // namespace zl::app
