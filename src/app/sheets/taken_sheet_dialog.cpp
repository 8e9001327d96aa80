#include "app/sheets/taken_sheet_dialog.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_changes.h"
#include "app/sheets/sheet_places.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/platform/sheet_package.h"
#include "core/project/sheet_yardsticks.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

TakenSheetDialog::TakenSheetDialog(Session& session, const QString& package, QWidget* parent)
    : QDialog(parent), session_(session), files_(platform::unpackedSheet(package.toStdString())) {
    setWindowTitle(tr("A sheet to take in"));
    setAttribute(Qt::WA_DeleteOnClose);
    const auto given = std::make_shared<const platform::Sheet>(platform::sheetIn(files_, sheetWords()));
    const platform::Sheet& sheet = *given;
    id_ = sheet.id;
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(8);
    column->addWidget(headingLabel(qs(sheet.name), 3));
    column->addWidget(
        textLabel(tr("%1, %2%3")
                      .arg(qs(sheet.kind), qs(showCount(long(sheet.rules.size()), "limit", "limits")),
                           sheet.edition.empty() ? QString() : tr(", edition %1").arg(qs(sheet.edition))),
                  "dim"));
    if (!sheet.about.empty()) column->addWidget(textLabel(qs(sheet.about)));
    const SheetPointer before = session.sheet(sheet.id);
    if (before) column->addWidget(new SheetChanges(session, before, given));
    auto* foot = new QHBoxLayout;
    foot->addStretch(1);
    auto* leave = button(tr("Leave it"), "quiet");
    auto* take = button(before ? tr("Take it in its place") : tr("Take it in"), "main", "check");
    take->setObjectName("takeSheet");
    foot->addWidget(leave);
    foot->addWidget(take);
    column->addLayout(foot);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(take, &QPushButton::clicked, this, &TakenSheetDialog::take);
    setMinimumWidth(460);
}

void TakenSheetDialog::take() {
    try {
        const auto file = platform::takeSheet(files_, newSheetFolder(session_), sheetWords());
        session_.reloadSheets();
        session_.addYardsticks(project::yardsticksIn(file.parent_path()));
        Q_EMIT taken(qs(id_));
        accept();
    } catch (const std::exception& problem) {
        Q_EMIT failed(qs(wordsOf(problem)));
        reject();
    }
}

} // namespace zl::app
