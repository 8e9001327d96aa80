#include "app/pages/bones_list.h"

#include "app/qt_text.h"

#include "core/motion/attached.h"

#include <QHeaderView>
#include <QSignalBlocker>

namespace zl::app {

BonesList::BonesList(QWidget* parent) : QTreeWidget(parent) {
    setObjectName("bonesList");
    setAccessibleName(tr("Bones of the piece"));
    setHeaderHidden(true);
    setColumnCount(1);
    setIndentation(12);
    setUniformRowHeights(true);
    setExpandsOnDoubleClick(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    header()->setStretchLastSection(true);
    connect(this, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item) Q_EMIT picked(item->text(0));
    });
}

void BonesList::show(const Model& model) {
    std::vector<std::pair<QString, int>> names;
    std::map<int, int> places; // by node
    for (const int joint : motion::jointsOf(model)) {
        int above = model.nodes[std::size_t(joint)].parent;
        while (above >= 0 && !places.contains(above)) above = model.nodes[std::size_t(above)].parent;
        places[joint] = int(names.size());
        names.emplace_back(qs(model.nodes[std::size_t(joint)].name), above < 0 ? -1 : places[above]);
    }
    if (names == names_) return;
    const QString was = currentItem() ? currentItem()->text(0) : QString();
    names_ = std::move(names);
    const QSignalBlocker quiet(this);
    clear();
    items_.clear();
    for (const auto& [name, above] : names_) {
        auto* item = above < 0 ? new QTreeWidgetItem(this) : new QTreeWidgetItem(items_[std::size_t(above)]);
        item->setText(0, name);
        item->setToolTip(0, name);
        items_.push_back(item);
    }
    expandAll();
    find(sought_);
    choose(was);
}

void BonesList::choose(const QString& bone) {
    const QSignalBlocker quiet(this);
    if (currentItem() && currentItem()->text(0) == bone) return;
    setCurrentItem(nullptr);
    for (QTreeWidgetItem* item : items_)
        if (item->text(0) == bone && !bone.isEmpty()) {
            setCurrentItem(item);
            return scrollToItem(item);
        }
}

void BonesList::find(const QString& text) {
    sought_ = text;
    for (QTreeWidgetItem* item : items_) item->setHidden(false);
    if (text.isEmpty()) return;
    // From the last to the first, for what hangs on a bone comes behind it.
    std::vector<char> shown(items_.size(), 0);
    for (std::size_t i = items_.size(); i-- > 0;) {
        shown[i] |= names_[i].first.contains(text, Qt::CaseInsensitive);
        if (shown[i] && names_[i].second >= 0) shown[std::size_t(names_[i].second)] = 1;
        items_[i]->setHidden(!shown[i]);
    }
}

} // namespace zl::app
