#include "app/pages/plan_panel.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QApplication>
#include <QCheckBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

PlanPanel::PlanPanel(QWidget* parent) : QWidget(parent) {
    setObjectName("planPanel");
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(8);
}

void PlanPanel::show(const planner::Plan& plan, const std::vector<planner::Question>& asked,
                     const recipe::Recipe& answers, const EditingPlace& place) {
    const QString held = nameOfFocus();
    plan_ = plan;
    ticks_.clear();
    questions_.clear();
    clearLayout(layout_);
    promise_ = textLabel({});
    promise_->setObjectName("planPromise");
    layout_->addWidget(promise_);
    take_ = button(tr("Add these steps"), "main");
    take_->setObjectName("planApply");
    take_->setVisible(!plan.steps.empty());
    connect(take_, &QPushButton::clicked, this, &PlanPanel::taken);
    layout_->addWidget(take_);
    auto* leave = button(plan.steps.empty() ? tr("Close") : tr("Leave as it is"));
    leave->setObjectName("planLeave");
    connect(leave, &QPushButton::clicked, this, &PlanPanel::left);
    layout_->addWidget(leave);
    problem_ = textLabel({}, "bad");
    problem_->setObjectName("planProblem");
    layout_->addWidget(problem_);
    problem_->hide();
    layout_->addSpacing(4);
    QWidget* first = nullptr;
    const bool waits = std::ranges::any_of(plan.questions, &planner::Question::waits);
    for (const auto& question : asked)
        if (QWidget* answer = addQuestion(question, answers, place); !first && waits) first = answer;
    for (const auto& step : plan.steps) addCard(step);
    for (const std::string& reason : plan.reasons)
        layout_->addWidget(textLabel(tr("Stays broken. %1.").arg(qs(reason)), "bad"));
    layout_->addStretch(1);
    showPromise();
    QWidget::show();
    const auto named = held.isEmpty() ? QWidgetList() : findChildren<QWidget*>(held);
    QWidget* again = named.isEmpty() ? nullptr : named.last(); // the one before goes later
    (again ? again : first ? first : plan.steps.empty() ? leave : take_)->setFocus();
}

QString PlanPanel::nameOfFocus() const {
    const QWidget* widget = QApplication::focusWidget();
    if (!widget || !isAncestorOf(widget)) return {};
    while (widget != this && (widget->objectName().isEmpty() || widget->objectName().startsWith("qt_")))
        widget = widget->parentWidget();
    return widget == this ? QString() : widget->objectName();
}

QWidget* PlanPanel::addQuestion(const planner::Question& question, const recipe::Recipe& answers,
                                const EditingPlace& place) {
    const auto given = std::ranges::find(answers, question.step, &recipe::Entry::step);
    const auto planned = std::ranges::find(plan_.steps, question.step,
                                           [](const planner::PlannedStep& step) { return step.entry.step; });
    const recipe::Entry* known = given != answers.end()         ? &*given
                                 : planned != plan_.steps.end() ? &planned->entry
                                                                : nullptr;
    auto* card = QuestionCard::of(question, known, place, this);
    connect(card, &QuestionCard::answered, this, &PlanPanel::answered);
    connect(card, &QuestionCard::pointsAsked, this, &PlanPanel::pointsAsked);
    questions_.push_back(card);
    layout_->addWidget(card);
    return card->begin();
}

void PlanPanel::setPoints(const glm::dvec3& from, const glm::dvec3& to) {
    for (QuestionCard* card : questions_) card->setPoints(from, to);
}

void PlanPanel::addCard(const planner::PlannedStep& step) {
    auto* card = new QFrame;
    card->setProperty("card", true);
    auto* words = new QVBoxLayout(card);
    words->setContentsMargins(12, 9, 12, 9);
    words->setSpacing(2);
    const auto made = steps::makeStep(step.entry.step);
    auto* tick =
        new QCheckBox(QString::fromUtf8(made->info().name.data(), qsizetype(made->info().name.size())));
    tick->setChecked(true);
    tick->setObjectName("plan-" + qs(step.entry.step));
    tick->setFont(Theme::instance().heading(14));
    connect(tick, &QCheckBox::toggled, this, [this] {
        take_->setEnabled(std::ranges::any_of(ticks_, [](auto* t) { return t->isChecked(); }));
        showPromise();
        Q_EMIT chosenChanged();
    });
    ticks_.push_back(tick);
    words->addWidget(tick);
    auto* change = textLabel(
        QString("%1  →  <b>%2</b>").arg(qs(step.before).toHtmlEscaped(), qs(step.after).toHtmlEscaped()));
    auto* why = textLabel(qs(step.why), "dim");
    for (QLabel* label : {change, why}) {
        label->setContentsMargins(24, 0, 0, 0);
        words->addWidget(label);
    }
    layout_->addWidget(card);
}

void PlanPanel::setProblem(const QString& problem) {
    if (!problem_) return;
    problem_->setText(problem);
    problem_->setVisible(!problem.isEmpty());
}

void PlanPanel::showPromise() {
    bool whole = true;
    for (std::size_t i = 0; i < ticks_.size(); ++i)
        whole &= ticks_[i]->isChecked() || !plan_.steps[i].required;
    promise_->setText(
        std::ranges::any_of(plan_.questions, &planner::Question::waits)
            ? tr("One thing only you can know; say it, and the rest follows.")
        : ticks_.empty() && plan_.holds ? tr("It fits as it is; there is nothing to do.")
        : ticks_.empty()                ? tr("No step here can make it fit.")
        : !whole ? tr("Without the steps that are left out, limits stay broken. The others are "
                      "one change that Undo takes back.")
        : plan_.holds
            ? tr("These steps make every limit hold. You see their result; they go behind the steps "
                 "that are there already, as one change that Undo takes back.")
            : tr("These steps help, but some limits stay broken."));
}

recipe::Recipe PlanPanel::chosen() const {
    recipe::Recipe out;
    for (std::size_t i = 0; i < ticks_.size(); ++i)
        if (ticks_[i]->isChecked()) out.push_back(plan_.steps[i].entry);
    return out;
}

} // namespace zl::app
