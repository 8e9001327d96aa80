#include "app/sheets/sheet_changes.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/platform/sheet_package.h"

#include <QLabel>
#include <QVBoxLayout>

namespace zl::app {

SheetChanges::SheetChanges(Session& session, const SheetPointer& before, const SheetPointer& after,
                           QWidget* parent)
    : QWidget(parent), before_(session), after_(session) {
    constexpr int most = 14;
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    QStringList lines;
    for (const std::string& one : platform::differencesOf(*before, *after)) lines << qs(one);
    column->addWidget(headingLabel(
        lines.isEmpty() ? tr("It is the same as the one that is here.") : tr("What changed"), 2));
    auto* list = textLabel(lines.mid(0, most).join("\n") +
                           (lines.size() > most ? tr("\nand %1 more").arg(lines.size() - most) : QString()));
    list->setObjectName("sheetChanges");
    column->addWidget(list);
    touched_ = textLabel({}, "warn");
    touched_->setObjectName("sheetTouches");
    touched_->hide();
    column->addWidget(touched_);
    if (lines.isEmpty()) return;
    for (SheetStanding* standing : {&before_, &after_})
        connect(standing, &SheetStanding::changed, this, &SheetChanges::showTouched);
    before_.ask(before, before->id);
    after_.ask(after, after->id);
}

void SheetChanges::showTouched() {
    if (!before_.isSettled() || !after_.isSettled()) return;
    QStringList lines;
    for (const auto& [piece, fits] : after_.fits())
        if (const auto was = before_.fits().find(piece); was != before_.fits().end() && was->second != fits)
            lines << (fits ? tr("%1 would fit") : tr("%1 would fit no longer")).arg(qs(piece));
    touched_->setText(lines.join("\n"));
    touched_->setVisible(!lines.isEmpty());
}

} // namespace zl::app
