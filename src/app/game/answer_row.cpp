#include "app/game/answer_row.h"

#include "app/qt_text.h"
#include "app/widgets/mark.h"

#include <QHBoxLayout>
#include <QObject>

namespace zl::app {

QHBoxLayout* answerRow(const platform::GameAnswer& answer, const platform::Sheet& sheet) {
    QStringList more{qs(answer.when)};
    if (!answer.because.empty()) more << qs(answer.because);
    if (!answer.note.empty()) more << qs(answer.note);
    if (const auto* rule = sheet.rule(answer.limit))
        more << QObject::tr("led to the limit %1").arg(qs(rule->label));
    return markRow(
        answer.accepted ? Mark::Fits : Mark::Broken,
        (answer.accepted ? QObject::tr("%1 was taken") : QObject::tr("%1 was refused")).arg(qs(answer.piece)),
        more.join(". "));
}

} // namespace zl::app
