#include "app/pages/plan_dialog.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QCheckBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

PlanDialog::PlanDialog(const planner::Plan& plan, const QString& piece, const QString& platform,
                       QWidget* parent)
    : QDialog(parent), plan_(plan) {
    setWindowTitle(tr("Suggest a fit"));
    setObjectName("planDialog");
    setMinimumWidth(560);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(tr("%1 on %2").arg(piece, platform)));
    const bool nothing = plan.steps.empty();
    promise_ = textLabel({});
    promise_->setObjectName("planPromise");
    layout->addWidget(promise_);
    for (const auto& step : plan.steps) {
        auto* card = new QFrame;
        card->setProperty("card", true);
        auto* row = new QHBoxLayout(card);
        row->setContentsMargins(12, 8, 14, 8);
        row->setSpacing(12);
        const auto made = steps::makeStep(step.entry.step);
        auto* tick =
            new QCheckBox(QString::fromUtf8(made->info().name.data(), qsizetype(made->info().name.size())));
        tick->setChecked(true);
        tick->setObjectName("plan-" + qs(step.entry.step));
        tick->setFont(Theme::instance().heading(14));
        ticks_.push_back(tick);
        auto* words = new QVBoxLayout;
        words->setSpacing(1);
        words->addWidget(tick);
        auto* why = textLabel(qs(step.why), "dim");
        why->setContentsMargins(24, 0, 0, 0);
        words->addWidget(why);
        row->addLayout(words, 1);
        auto* change = new QLabel(
            QString("%1  →  <b>%2</b>").arg(qs(step.before).toHtmlEscaped(), qs(step.after).toHtmlEscaped()));
        change->setWordWrap(true);
        change->setMaximumWidth(220);
        change->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        row->addWidget(change);
        layout->addWidget(card);
    }
    for (const std::string& reason : plan.reasons)
        layout->addWidget(textLabel(tr("Stays broken. %1.").arg(qs(reason)), "bad"));
    layout->addSpacing(4);
    auto* actions = new QHBoxLayout;
    actions->addStretch(1);
    auto* leave = button(nothing ? tr("Close") : tr("Leave as it is"));
    leave->setObjectName("planLeave");
    actions->addWidget(leave);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    if (!nothing) {
        auto* apply = button(tr("Add these steps"), "main");
        apply->setObjectName("planApply");
        apply->setDefault(true);
        actions->addWidget(apply);
        connect(apply, &QPushButton::clicked, this, &QDialog::accept);
        for (auto* tick : ticks_)
            connect(tick, &QCheckBox::toggled, this, [this, apply] {
                apply->setEnabled(std::ranges::any_of(ticks_, [](auto* t) { return t->isChecked(); }));
                showPromise();
            });
    }
    layout->addLayout(actions);
    showPromise();
}

void PlanDialog::showPromise() {
    bool whole = true;
    for (std::size_t i = 0; i < ticks_.size(); ++i)
        whole &= ticks_[i]->isChecked() || !plan_.steps[i].required;
    promise_->setText(ticks_.empty() && plan_.holds ? tr("It fits as it is; there is nothing to do.")
                      : ticks_.empty()              ? tr("No step here can make it fit.")
                      : !whole ? tr("Without the steps that are left out, limits stay broken. The others are "
                                    "one change that Undo takes back.")
                      : plan_.holds
                          ? tr("These steps make every limit hold. They go behind the steps that are "
                               "there already, as one change that Undo takes back.")
                          : tr("These steps help, but some limits stay broken."));
}

recipe::Recipe PlanDialog::chosen() const {
    recipe::Recipe out;
    for (std::size_t i = 0; i < ticks_.size(); ++i)
        if (ticks_[i]->isChecked()) out.push_back(plan_.steps[i].entry);
    return out;
}

} // namespace zl::app
