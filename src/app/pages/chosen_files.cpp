#include "app/pages/chosen_files.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QLabel>
#include <QVBoxLayout>

namespace zl::app {

ChosenFiles::ChosenFiles(QWidget* parent) : QWidget(parent) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(10);
    name_ = headingLabel({}, 1);
    name_->setObjectName("chosenName");
    layout->addWidget(name_);
    picture_ = new QLabel;
    picture_->setObjectName("chosenPicture");
    picture_->setFixedHeight(184);
    picture_->setAlignment(Qt::AlignCenter);
    layout->addWidget(picture_);
    facts_ = textLabel({});
    facts_->setObjectName("chosenFacts");
    layout->addWidget(facts_);
}

void ChosenFiles::show(const ContentsTree& tree, const QModelIndexList& rows, const std::vector<int>& files,
                       std::size_t models) {
    const auto& all = tree.contents().held;
    double bytes = 0;
    for (const int held : files) bytes += double(all[std::size_t(held)].bytes);
    picture_->hide();
    if (rows.isEmpty()) {
        name_->setText(tr("Nothing chosen"));
        return facts_->setText(
            tr("Choose models to make pieces of, or files and folders to take out. Several "
               "at once with Ctrl or Shift."));
    }
    QString facts;
    if (rows.size() == 1 && files.size() == 1) {
        const files::Held& file = all[std::size_t(files[0])];
        const QString path = qs(file.path), folder = path.section('/', 0, -2);
        name_->setText(breakable(path.section('/', -1)));
        facts += factRow(tr("Kind"),
                         tree.data(rows[0].siblingAtColumn(ContentsTree::Kind), Qt::DisplayRole).toString());
        facts += factRow(tr("Size"), qs(showBytes(bytes)));
        if (!folder.isEmpty()) facts += factRow(tr("In"), folder);
        if (file.locked) facts += factRow(tr("Locked"), tr("yes"));
        if (const Peeked* known = tree.peeked(files[0])) {
            picture_->setPixmap(QPixmap::fromImage(known->picture));
            picture_->setVisible(!known->picture.isNull());
            if (known->triangles)
                facts += factRow(tr("Triangles"), qs(showNumber(double(*known->triangles), 0)));
            if (!known->problem.isEmpty()) facts += factRow(tr("Problem"), known->problem);
        }
    } else {
        name_->setText(rows.size() == 1
                           ? breakable(tree.data(rows[0].siblingAtColumn(0), Qt::DisplayRole).toString())
                           : qs(showCount(long(rows.size()), "row chosen", "rows chosen")));
        facts += factRow(tr("Files"), qs(showNumber(double(files.size()), 0)));
        facts += factRow(tr("Models"), qs(showNumber(double(models), 0)));
        facts += factRow(tr("Size"), qs(showBytes(bytes)));
    }
    facts_->setText("<table cellspacing='3'>" + facts + "</table>");
}

} // namespace zl::app
