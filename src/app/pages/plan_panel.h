#pragma once
#include "app/pages/plan_questions.h"

#include "core/planner/planner.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// A suggested plan beside the piece, one card a step with before → after; each can be left out.
class PlanPanel : public QWidget {
    Q_OBJECT
public:
    explicit PlanPanel(QWidget* parent = nullptr);

    /// Fills the panel, every line ticked; the keyboard goes to what has to be answered, else to the button
    /// that takes the plan. What was `asked` can be answered there, and answered otherwise while `answers`
    /// hold.
    void show(const planner::Plan& plan, const std::vector<planner::Question>& asked,
              const recipe::Recipe& answers, const EditingPlace& place);
    /// Two points that a question may go by, in metres as the piece stands before the plan.
    void setPoints(const glm::dvec3& from, const glm::dvec3& to);
    /// The lines that stayed ticked.
    recipe::Recipe chosen() const;
    /// What the ticked lines cannot do without those that were left out; empty takes it away.
    void setProblem(const QString& problem);

Q_SIGNALS:
    void chosenChanged();
    void taken(); ///< "Add these steps"
    void left();  ///< "Leave as it is"
    void answered(const zl::recipe::Entry& answer);
    void pointsAsked(bool asked);

private:
    /// Gives where the keyboard begins.
    QWidget* addQuestion(const planner::Question& question, const recipe::Recipe& answers,
                         const EditingPlace& place);
    void addCard(const planner::PlannedStep& step);
    /// The named widget in here that has the keyboard, or holds what has it; empty when it is elsewhere.
    QString nameOfFocus() const;
    void showPromise();

    planner::Plan plan_;
    QVBoxLayout* layout_;
    QLabel* promise_ = nullptr;
    QLabel* problem_ = nullptr;
    QPushButton* take_ = nullptr;
    std::vector<QCheckBox*> ticks_;
    std::vector<QuestionCard*> questions_;
};

} // namespace zl::app
