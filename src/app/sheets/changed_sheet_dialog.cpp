#include "app/sheets/changed_sheet_dialog.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_changes.h"
#include "app/widgets/ui.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

ChangedSheetDialog::ChangedSheetDialog(Session& session, const project::ChangedSheet& changed,
                                       QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("A sheet that changed"));
    setAttribute(Qt::WA_DeleteOnClose);
    setMinimumWidth(480);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(8);
    column->addWidget(headingLabel(qs(changed.now->name), 3));
    column->addWidget(textLabel(
        tr("Its sheet is another one than this project was saved with%1.")
            .arg(changed.before->edition == changed.now->edition
                     ? QString()
                     : tr(": edition %1 then, %2 now")
                           .arg(qs(changed.before->edition.empty() ? "none" : changed.before->edition),
                                qs(changed.now->edition.empty() ? "none" : changed.now->edition))),
        "dim"));
    column->addWidget(new SheetChanges(session, changed.before, changed.now));
    auto* foot = new QHBoxLayout;
    auto* stay = button(tr("Stay with the one it was saved with"), "quiet");
    stay->setObjectName("stayWithSheet");
    stay->setToolTip(tr("Puts that one into the project's own platforms, where it takes the other's place"));
    auto* take = button(tr("Take the new one"), "main", "check");
    take->setObjectName("takeNewSheet");
    foot->addStretch(1);
    foot->addWidget(stay);
    foot->addWidget(take);
    column->addLayout(foot);
    connect(stay, &QPushButton::clicked, this, [this, &session, id = changed.now->id] {
        session.stayWithUsedSheet(id);
        accept();
    });
    connect(take, &QPushButton::clicked, this, [this, &session, id = changed.now->id] {
        session.takeChangedSheet(id);
        accept();
    });
}

} // namespace zl::app
