#pragma once
#include "core/model/model.h"

#include <QTreeWidget>

namespace zl::app {

/// The bones of a rig as they hang on one another. A click, or the arrows, choose one.
class BonesList : public QTreeWidget {
    Q_OBJECT
public:
    explicit BonesList(QWidget* parent = nullptr);

    /// Takes up a model's bones; the chosen one stays chosen by its name, and what was folded stays so where
    /// they are the same bones.
    void show(const Model& model);
    int count() const { return int(names_.size()); }
    /// Shows the one of this name as chosen, without a signal.
    void choose(const QString& bone);
    /// Only those whose names hold the text, with what they hang on.
    void find(const QString& text);

Q_SIGNALS:
    void picked(const QString& bone);

private:
    std::vector<QTreeWidgetItem*> items_;
    std::vector<std::pair<QString, int>> names_; ///< each with the index of the one it hangs on, or -1
    QString sought_;
};

} // namespace zl::app
