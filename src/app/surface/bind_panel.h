#pragma once
#include "app/pages/matched_pictures.h"
#include "app/session.h"

#include "core/project/moved_pictures.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// Pictures found for a piece's materials by the endings of their names: what goes where, what is there twice
/// and what is left over. Nothing is bound before *Bind* is pressed. Pictures that steps name and that are
/// gone are found again by name.
class BindPanel : public QWidget {
    Q_OBJECT
public:
    BindPanel(Session& session, QWidget* parent = nullptr);

    /// Begins anew for a piece; the materials are those that it ends with on the platform of `state`.
    void open(const QString& piece, const CrossingState& state);
    /// Looks through a folder, an archive, or several files that lie together.
    void look(const QStringList& paths);

Q_SIGNALS:
    /// Parameters of the step that puts pictures on. `ofPiece`: for every platform, which is so unless a
    /// material only comes of this platform's own steps.
    void bound(const nlohmann::json& params, bool ofPiece);
    void closed();

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    /// What was found, worked out beside the window.
    struct Found {
        std::filesystem::path container;
        std::vector<project::OfferedPicture> matching, twofold;
        project::PictureShelf::Left left;
        std::vector<project::MovedPicture> moved;
        std::size_t pictures = 0;
    };
    void show(Found found);
    void showButtons();
    void relink();

    Session& session_;
    QString piece_;
    project::Clothing wears_;
    std::set<std::string> everywhere_; ///< materials that it has on every platform
    std::string model_;                ///< its file's name
    Found found_;
    QLabel *where_, *twofold_, *moved_;
    MatchedPictures* matched_;
    QPushButton *bind_, *relink_;
};

} // namespace zl::app
