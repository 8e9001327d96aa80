#pragma once
#include "app/pages/contents_tree.h"

#include <QWidget>

class QLabel;

namespace zl::app {

/// What is chosen in an archive: one file's look and facts, or how much several come to.
class ChosenFiles : public QWidget {
    Q_OBJECT
public:
    explicit ChosenFiles(QWidget* parent = nullptr);

    /// `files` are those at the rows, `models` how many models they and what lies in them come to.
    void show(const ContentsTree& tree, const QModelIndexList& rows, const std::vector<int>& files,
              std::size_t models);

private:
    QLabel *name_, *picture_, *facts_;
};

} // namespace zl::app
