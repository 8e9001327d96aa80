#include "app/pages/chain_dialog.h"

#include "app/qt_text.h"
#include "app/widgets/chain_table.h"
#include "app/widgets/ui.h"

#include "core/base/file_set.h"

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

ChainDialog::ChainDialog(Session& session, const QString& piece, const QString& platform,
                         const QString& folder, QWidget* parent)
    : QDialog(parent), session_(session), piece_(piece), platform_(platform),
      sheet_(session.sheet(platform.toStdString())) {
    setObjectName("chainDialog");
    setWindowTitle(tr("Compare chains"));
    setMinimumSize(880, 560);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(12);
    layout->addWidget(
        headingLabel(tr("Ways from %1 to %2").arg(piece, sheet_ ? qs(sheet_->name) : platform)));
    layout->addWidget(textLabel(tr("Each leg is written, read back and measured. What a file lost and the "
                                   "recipe still knows is put back."),
                                "dim"));
    QStringList usual;
    if (sheet_)
        for (const auto& leg : sheet_->chain) usual << qs(leg.format);
    auto* sides = new QHBoxLayout;
    sides->setSpacing(18);
    sides->addWidget(makeSide(own_, tr("The platform's chain"), usual.join(", "), folder + "/usual"), 1);
    sides->addWidget(makeSide(other_, tr("Another chain"), "obj, dae", folder + "/other"), 1);
    layout->addLayout(sides, 1);
    auto* actions = new QHBoxLayout;
    actions->addStretch(1);
    auto* both = button(tr("Run both"), "main", "play");
    both->setObjectName("chainRun");
    both->setAutoDefault(false); // Enter in a list of formats ends the list, no more
    connect(both, &QPushButton::clicked, this, [this] {
        run(own_);
        run(other_);
    });
    auto* close = button(tr("Done"));
    close->setObjectName("chainDone");
    close->setAutoDefault(false);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    actions->addWidget(both);
    actions->addWidget(close);
    layout->addLayout(actions);
    showExpected(own_);
    showExpected(other_);
}

QWidget* ChainDialog::makeSide(Side& side, const QString& title, const QString& formats,
                               const QString& folder) {
    side.folder = folder;
    auto* frame = new QFrame;
    frame->setProperty("card", true);
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    column->addWidget(headingLabel(title, 2));
    side.formats = new QLineEdit(formats);
    side.formats->setObjectName(&side == &own_ ? "chainOwn" : "chainOther");
    side.formats->setAccessibleName(title);
    QStringList all;
    for (const auto& format : formats::allFormats())
        if (format.write) all << QString::fromUtf8(format.id.data(), qsizetype(format.id.size()));
    side.formats->setToolTip(tr("Formats in order, separated by commas: %1").arg(all.join(", ")));
    column->addWidget(side.formats);
    side.table = new ChainTable;
    column->addWidget(side.table);
    column->addStretch(1);
    side.summary = textLabel("", "dim");
    column->addWidget(side.summary);
    connect(side.formats, &QLineEdit::editingFinished, this, [this, &side] { showExpected(side); });
    return frame;
}

std::vector<chain::LegPlan> ChainDialog::plansOf(const Side& side) const {
    return chain::planned(chain::legsFrom(side.formats->text().toStdString()), sheet_.get(),
                          fileNameFrom(piece_.toStdString()));
}

void ChainDialog::showExpected(Side& side) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    restyle(side.summary, "bad", false);
    try {
        side.table->showExpected(plansOf(side), chain::factsOf(state.evaluation.model));
        side.summary->setText(tr("Expected; nothing has been written yet."));
    } catch (const Error& error) {
        side.summary->setText(qs(error.whole()));
        restyle(side.summary, "bad", true);
    }
}

void ChainDialog::run(Side& side) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    std::vector<chain::LegPlan> plans;
    try {
        plans = plansOf(side);
    } catch (const Error&) {
        return showExpected(side); // says what is wrong
    }
    side.summary->setText(tr("Running…"));
    session_.jobs().start<chain::Result>(
        tr("Going through the chain"), this,
        [model = state.evaluation.model, plans, folder = side.folder.toStdString()](
            const Progress& progress) { return chain::run(model, plans, folder, progress); },
        [&side](const chain::Result& result) {
            side.table->showMeasured(result.legs);
            int lost = 0, back = 0;
            for (const auto& leg : result.legs)
                for (const auto& [aspect, verdict] : leg.measured) {
                    lost += verdict.fate == chain::Fate::Lost;
                    back += verdict.fate == chain::Fate::PutBack;
                }
            side.summary->setText(tr("Measured: %1, %2. Files: %3")
                                      .arg(qs(showCount(lost, "thing lost", "things lost")),
                                           qs(showCount(back, "put back", "put back")), side.folder));
        },
        [&side](const QString& problem) { side.summary->setText(problem); }, Urgency::Asked,
        [&side] { side.summary->setText(tr("Stopped.")); });
}

} // namespace zl::app
