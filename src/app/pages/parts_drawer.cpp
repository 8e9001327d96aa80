#include "app/pages/parts_drawer.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QShortcut>
#include <QSortFilterProxyModel>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// An eye for what is shown, and the material's colour before the name.
class PartDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        if (index.column() == PartsList::Shown) {
            QStyleOptionViewItem plain(option);
            initStyleOption(&plain, index);
            QStyledItemDelegate::paint(painter, plain, index);
            const bool hidden = index.data(PartsList::SortRole).toBool();
            const QRect at(option.rect.center() - QPoint(8, 8), QSize(16, 16));
            Theme::instance().icon(hidden ? "eye-off" : "eye").paint(painter, at);
            return;
        }
        QStyleOptionViewItem shifted(option);
        if (index.column() == PartsList::Name) {
            QStyledItemDelegate::paint(painter, shifted, {}); // the row's ground
            const QRectF swatch(option.rect.left() + 4, option.rect.center().y() - 5, 11, 11);
            painter->save();
            painter->setRenderHint(QPainter::Antialiasing);
            painter->setPen(QPen(tokens().edge, 1));
            painter->setBrush(index.data(PartsList::SwatchRole).value<QColor>());
            painter->drawRoundedRect(swatch, 3, 3);
            painter->restore();
            shifted.rect.setLeft(option.rect.left() + 18);
        }
        QStyledItemDelegate::paint(painter, shifted, index);
    }
};

} // namespace

PartsDrawer::PartsDrawer(Selected& selected, QWidget* parent) : QFrame(parent), selected_(selected) {
    setObjectName("partsDrawer");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(256);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 12, 8, 8);
    layout->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->addWidget(headingLabel(tr("Parts")), 1);
    auto* close = iconButton("x", tr("Close the list of parts (Ctrl+P)"));
    connect(close, &QToolButton::clicked, this, &PartsDrawer::closeAsked);
    head->addWidget(close);
    layout->addLayout(head);
    filter_ = new QLineEdit;
    filter_->setObjectName("partsFilter");
    filter_->setPlaceholderText(tr("Find a part or a bone…"));
    filter_->setClearButtonEnabled(true);
    layout->addWidget(filter_);
    list_ = new PartsList(this);
    sorted_ = new QSortFilterProxyModel(this);
    sorted_->setSourceModel(list_);
    sorted_->setFilterKeyColumn(PartsList::Name);
    sorted_->setFilterCaseSensitivity(Qt::CaseInsensitive);
    sorted_->setSortRole(PartsList::SortRole);
    table_ = new QTableView;
    table_->setObjectName("partsTable");
    table_->setModel(sorted_);
    table_->setItemDelegate(new PartDelegate(table_));
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    table_->setShowGrid(false);
    table_->setSortingEnabled(true);
    table_->sortByColumn(-1, Qt::AscendingOrder); // as the model has them, until a head is clicked
    table_->setTabKeyNavigation(false);
    table_->setWordWrap(false);
    table_->setAccessibleName(tr("Parts of the piece"));
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->verticalHeader()->setDefaultSectionSize(26);
    auto* columns = table_->horizontalHeader();
    columns->setMinimumSectionSize(26);
    columns->setSectionResizeMode(PartsList::Shown, QHeaderView::Fixed);
    columns->setSectionResizeMode(PartsList::Name, QHeaderView::Stretch);
    columns->setSectionResizeMode(PartsList::Triangles, QHeaderView::Fixed);
    columns->resizeSection(PartsList::Shown, 28);
    columns->resizeSection(PartsList::Triangles, 82);
    columns->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    columns->setHighlightSections(false);
    layout->addWidget(table_, 1);
    words_ = textLabel({}, "dim");
    words_->setObjectName("partsWords");
    layout->addWidget(words_);
    auto* row = new QHBoxLayout;
    auto* hide = button(tr("Hide or show"), "quiet", "eye-off");
    hide->setObjectName("hideParts");
    hide->setToolTip(tr("Hides the selected parts from view, or shows them again (Space in the list)"));
    auto* all = button(tr("Show all"), "quiet", "eye");
    all->setObjectName("showAllParts");
    row->addWidget(hide);
    row->addWidget(all);
    layout->addLayout(row);
    bonesHead_ = textLabel({}, "dim");
    bonesHead_->setObjectName("bonesWords");
    layout->addWidget(bonesHead_);
    bones_ = new BonesList;
    layout->addWidget(bones_, 1);
    for (QWidget* list : std::initializer_list<QWidget*>{table_, bones_})
        list->setMinimumHeight(64); // a low window has to hold both
    showBones({});

    connect(filter_, &QLineEdit::textChanged, this, [this](const QString& text) {
        sorted_->setFilterFixedString(text);
        bones_->find(text);
        refreshWords();
        showSelection();
    });
    connect(filter_, &QLineEdit::returnPressed, this, [this] {
        table_->selectAll();
        table_->setFocus();
    });
    connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            &PartsDrawer::takeSelection);
    connect(table_, &QTableView::clicked, this, &PartsDrawer::toggleShown);
    auto* key = new QShortcut(Qt::Key_Space, table_);
    key->setContext(Qt::WidgetShortcut);
    connect(key, &QShortcut::activated, this, &PartsDrawer::hideSelected);
    connect(hide, &QPushButton::clicked, this, &PartsDrawer::hideSelected);
    connect(all, &QPushButton::clicked, this, [this] { list_->setHidden({}); });
    connect(list_, &PartsList::hiddenChanged, this, [this] {
        refreshWords();
        Q_EMIT hiddenChanged();
    });
    connect(&selected_, &Selected::changed, this, &PartsDrawer::showSelection);
}

void PartsDrawer::show(const Model& model, const std::vector<glm::vec3>& swatches) {
    taking_ = true; // rows come and go; that selects nothing
    list_->show(model, swatches);
    taking_ = false;
    refreshWords();
    showSelection();
}

void PartsDrawer::reset() {
    filter_->clear();
    list_->setHidden({});
}

void PartsDrawer::showBones(const Model& model) {
    bones_->show(model);
    const bool some = bones_->count() > 0;
    bonesHead_->setText(
        tr("%1; a click shows how it moves").arg(qs(showCount(bones_->count(), "bone", "bones"))));
    bonesHead_->setVisible(some);
    bones_->setVisible(some);
}

void PartsDrawer::takeSelection() {
    if (taking_) return;
    std::set<NodePath> parts;
    for (const QModelIndex& row : table_->selectionModel()->selectedRows(PartsList::Name))
        parts.insert(row.data(PartsList::PathRole).toString().toStdString());
    taking_ = true;
    selected_.setParts(std::move(parts));
    taking_ = false;
}

void PartsDrawer::showSelection() {
    if (taking_) return;
    taking_ = true;
    QItemSelection rows;
    QModelIndex first;
    for (const NodePath& path : selected_.parts()) {
        const int row = list_->rowOf(path);
        const QModelIndex index =
            row < 0 ? QModelIndex() : sorted_->mapFromSource(list_->index(row, PartsList::Name));
        if (!index.isValid()) continue;
        rows.select(index, index);
        if (!first.isValid()) first = index;
    }
    table_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect | QItemSelectionModel::Rows);
    if (first.isValid()) table_->scrollTo(first);
    taking_ = false;
}

void PartsDrawer::toggleShown(const QModelIndex& index) {
    if (index.column() != PartsList::Shown) return;
    const NodePath path = index.data(PartsList::PathRole).toString().toStdString();
    auto hidden = list_->hidden();
    if (hidden.erase(path) == 0) hidden.insert(path);
    list_->setHidden(std::move(hidden));
}

void PartsDrawer::hideSelected() {
    auto hidden = list_->hidden();
    const auto& parts = selected_.parts();
    const bool all = std::ranges::all_of(parts, [&](const NodePath& path) { return hidden.contains(path); });
    for (const NodePath& path : parts)
        if (all)
            hidden.erase(path);
        else
            hidden.insert(path);
    list_->setHidden(std::move(hidden));
}

void PartsDrawer::refreshWords() {
    const int all = list_->rowCount(), found = sorted_->rowCount();
    QString text = found == all ? qs(showCount(all, "part", "parts"))
                                : tr("%1 of %2").arg(found).arg(qs(showCount(all, "part", "parts")));
    std::size_t hidden = 0;
    for (int row = 0; row < all; ++row) hidden += list_->hidden().contains(list_->path(row));
    if (hidden > 0) text += tr(", %1 hidden from view").arg(hidden);
    words_->setText(text);
}

} // namespace zl::app
