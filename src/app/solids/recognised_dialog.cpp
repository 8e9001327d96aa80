#include "app/solids/recognised_dialog.h"

#include "app/fields/number_box.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/solids/scene_fields.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr double usuallyWithin = 5; ///< per cent

} // namespace

RecognisedDialog::RecognisedDialog(const QString& piece, std::vector<solids::Recognised> found,
                                   QWidget* parent)
    : QDialog(parent), found_(std::move(found)) {
    setObjectName("recognisedDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Solids from parts"));
    setMinimumSize(620, 520);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(tr("%1 as solids").arg(piece)));
    layout->addWidget(textLabel(
        tr("Each loose part as the box, cylinder or ball that comes nearest to it. How far it is off "
           "is the furthest that either surface lies from the other."),
        "dim"));
    auto* row = new QHBoxLayout;
    auto* label = textLabel(tr("Tick what is off by at most"));
    label->setWordWrap(false);
    row->addWidget(label);
    within_ = new NumberBox;
    within_->setObjectName("recognisedWithin");
    within_->setAccessibleName(label->text());
    within_->setRange(0, 100);
    within_->setDecimals(1);
    within_->setSuffix(tr(" % of its length"));
    within_->setValue(usuallyWithin);
    row->addWidget(within_);
    row->addStretch(1);
    layout->addLayout(row);
    list_ = new QTreeWidget;
    list_->setObjectName("recognisedParts");
    list_->setAccessibleName(tr("Parts and their solids"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels({tr("Part"), tr("Solid"), tr("Across × up × along, m"), tr("Off by")});
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int column = 1; column < 4; ++column)
        list_->header()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
    for (const solids::Recognised& one : found_) {
        const glm::dvec3& size = one.solid.shape.size;
        auto* item = new QTreeWidgetItem(
            list_,
            {qs(one.part), qs(std::string(solids::nameOf(one.solid.shape.kind))),
             tr("%1 × %2 × %3").arg(qs(showNumber(size.x)), qs(showNumber(size.y)), qs(showNumber(size.z))),
             tr("%1 mm, %2 %").arg(qs(showNumber(1000 * one.error, 1)), qs(showNumber(100 * one.share, 1)))});
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        item->setToolTip(0, qs(one.part));
    }
    layout->addWidget(list_, 1);
    words_ = textLabel(QString());
    words_->setObjectName("recognisedWords");
    layout->addWidget(words_);
    auto* actions = new QHBoxLayout;
    take_ = button(tr("Make a scene of them"), "main");
    take_->setObjectName("recognisedTake");
    auto* close = button(tr("Cancel"));
    close->setAutoDefault(false);
    actions->addStretch(1);
    actions->addWidget(close);
    actions->addWidget(take_);
    layout->addLayout(actions);
    connect(within_, &QDoubleSpinBox::valueChanged, this, &RecognisedDialog::tickWithin);
    connect(list_, &QTreeWidget::itemChanged, this, &RecognisedDialog::showCount);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(take_, &QPushButton::clicked, this, [this] {
        Q_EMIT taken(ticked());
        accept();
    });
    tickWithin(usuallyWithin);
}

void RecognisedDialog::tickWithin(double percent) {
    {
        const QSignalBlocker quiet(list_);
        for (std::size_t k = 0; k < found_.size(); ++k)
            list_->topLevelItem(int(k))->setCheckState(0, 100 * found_[k].share <= percent ? Qt::Checked
                                                                                           : Qt::Unchecked);
    }
    showCount();
}

void RecognisedDialog::showCount() {
    const std::size_t count = ticked().size();
    words_->setText(tr("%1 of %2 taken; the others are left out of the scene.")
                        .arg(count)
                        .arg(qs(zl::showCount(long(found_.size()), "part", "parts"))));
    take_->setEnabled(count > 0);
}

std::vector<solids::Recognised> RecognisedDialog::ticked() const {
    std::vector<solids::Recognised> out;
    for (std::size_t k = 0; k < found_.size(); ++k)
        if (list_->topLevelItem(int(k))->checkState(0) == Qt::Checked) out.push_back(found_[k]);
    return out;
}

} // namespace zl::app
