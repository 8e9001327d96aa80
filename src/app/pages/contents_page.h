#pragma once
#include "app/pages/contents_tree.h"
#include "app/pages/source_page.h"

#include "core/project/matching_pictures.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTreeView;
class QVBoxLayout;

namespace zl::app {

class ArchiveLock;
class ChosenFiles;
class MatchedPictures;

/// What lies in an archive or a package: found by name, kind and look, and taken out of it as pieces that
/// stay linked or as files in a folder.
class ContentsPage : public SourcePage {
    Q_OBJECT
public:
    explicit ContentsPage(Session& session, QWidget* parent = nullptr);

    void open(const QString& archive);
    /// Nothing is being read that the page waits for.
    bool isSettled() const { return !reading_ && !laying_; }

private:
    QWidget* makeSide();
    QWidget* makeList();
    void fillFacts(QVBoxLayout* facts);
    void read();
    void lay();
    void peekNext();
    void showKinds();
    void showProblem(const QString& problem, bool canTrust);
    void showChosen();
    void showMatched();
    /// What endings of names mean, for the project's platforms.
    platform::RoleEndings endings();
    static std::shared_ptr<const project::PictureShelf> shelfOf(const files::Contents& contents,
                                                                const platform::RoleEndings& endings);
    void makePieces();
    void takeOut();
    QModelIndexList chosenRows() const;
    std::vector<int> chosenModels() const;
    int chosenModel() const; ///< -1 unless it is one alone
    QString pathOf(int held) const;

    std::shared_ptr<const files::Contents> contents_;
    std::shared_ptr<const project::PictureShelf> shelf_;        ///< its pictures
    std::map<int, std::vector<project::OfferedPicture>> wears_; ///< of models, changed by hand
    ContentsTree* tree_;
    QTreeView* view_;
    QPointer<Job> laying_, peeking_;
    QTimer laySoon_, peekSoon_;
    DiskWatch disk_;
    std::map<formats::FileKind, QCheckBox*> kinds_;
    QLabel *refused_, *problem_, *empty_;
    QWidget* trouble_;
    ArchiveLock* lock_;
    ChosenFiles* chosen_;
    MatchedPictures* matched_;
    QPushButton *trust_, *pieces_, *take_;
};

} // namespace zl::app
