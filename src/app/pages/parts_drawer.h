#pragma once
#include "app/pages/bones_list.h"
#include "app/pages/parts_list.h"

#include <QFrame>

class QLabel;
class QLineEdit;
class QSortFilterProxyModel;
class QTableView;

namespace zl::app {

/// All parts of the piece beside the view: found by typing, selected several at once, hidden and shown. What
/// is selected here is selected in the view, and the other way round. Below them its bones, where asked for.
class PartsDrawer : public QFrame {
    Q_OBJECT
public:
    PartsDrawer(Selected& selected, QWidget* parent = nullptr);

    void show(const Model& model, const std::vector<glm::vec3>& swatches);
    const std::set<NodePath>& hidden() const { return list_->hidden(); }
    /// Everything is shown again, as for another piece.
    void reset();
    /// The bones of a model below the parts; none for a model without.
    void showBones(const Model& model);
    BonesList& bones() { return *bones_; }

Q_SIGNALS:
    void hiddenChanged();
    void closeAsked();

private:
    void takeSelection();
    void showSelection();
    void toggleShown(const QModelIndex& index);
    void hideSelected();
    void refreshWords();

    Selected& selected_;
    PartsList* list_;
    QSortFilterProxyModel* sorted_;
    QTableView* table_;
    QLineEdit* filter_;
    QLabel* words_;
    QLabel* bonesHead_;
    BonesList* bones_;
    bool taking_ = false; ///< the change of selection came from here
};

} // namespace zl::app
