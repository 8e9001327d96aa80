#pragma once
#include "core/files/contents.h"
#include "core/formats/file_kind.h"
#include "core/project/matching_pictures.h"

#include <QAbstractItemModel>
#include <QPixmap>

#include <map>
#include <set>

namespace zl::app {

/// What has been looked up of one file: its picture, and of a model how many triangles it has.
struct Peeked {
    QImage picture;
    std::optional<std::size_t> triangles;
    std::optional<project::Clothing> clothing; ///< of a model
    QString problem;
};

/// Which files of an archive are shown.
struct ContentsFilter {
    QString words; ///< each must be in the path, without regard to case
    std::set<formats::FileKind> kinds;
};

/// What an archive holds, as folders and files; archives within it open like folders.
class ContentsTree : public QAbstractItemModel {
    Q_OBJECT
public:
    enum Column { Name, Kind, Size, Triangles, Columns };

    /// A folder or a file; made beside the window's thread, for archives of very many files.
    struct Node {
        QString name;
        int parent = -1, row = 0;
        int held = -1; ///< in the contents; -1 for a folder
        std::vector<int> children;
    };
    struct Laid {
        std::vector<Node> nodes;              ///< the first is the archive itself
        std::vector<formats::FileKind> kinds; ///< of all that it holds, shown or not
        std::size_t files = 0;
    };
    static Laid lay(const files::Contents& contents, const ContentsFilter& filter,
                    const Progress& progress = {});

    using QAbstractItemModel::QAbstractItemModel;

    void show(std::shared_ptr<const files::Contents> contents, Laid laid);
    /// Whether the key to what is locked is known.
    void setUnlocked(bool unlocked) { unlocked_ = unlocked; }
    void setPeeked(int held, Peeked peeked);
    const Peeked* peeked(int held) const;
    void forgetPeeked();

    const files::Contents& contents() const { return *contents_; }
    /// The file at a row; -1 for a folder.
    int heldAt(const QModelIndex& index) const { return laid_.nodes[std::size_t(index.internalId())].held; }
    /// The files at rows and in folders among them. Archives count as files; what lies in one comes with it
    /// where `within` is asked for.
    std::vector<int> filesAt(const QModelIndexList& rows, bool within) const;
    /// Locked, and its key is not known.
    bool isShut(int held) const { return contents_->held[std::size_t(held)].locked && !unlocked_; }
    formats::FileKind kindAt(int held) const { return laid_.kinds[std::size_t(held)]; }
    bool isSmall() const { return laid_.files <= 300; }

    QModelIndex index(int row, int column, const QModelIndex& parent = {}) const override;
    QModelIndex parent(const QModelIndex& index) const override;
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& = {}) const override { return Columns; }
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    const Node& nodeOf(const QModelIndex& index) const {
        return laid_.nodes[index.isValid() ? std::size_t(index.internalId()) : 0];
    }
    std::shared_ptr<const files::Contents> contents_ = std::make_shared<files::Contents>();
    Laid laid_{{Node{}}, {}, 0};
    std::map<int, Peeked> peeked_;
    bool unlocked_ = false;
};

} // namespace zl::app
