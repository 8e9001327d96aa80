#pragma once
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

    /// Fills the panel, every line ticked; the keyboard goes to the button that takes it.
    void show(const planner::Plan& plan);
    /// The lines that stayed ticked.
    recipe::Recipe chosen() const;
    /// What the ticked lines cannot do without those that were left out; empty takes it away.
    void setProblem(const QString& problem);

Q_SIGNALS:
    void chosenChanged();
    void taken(); ///< "Add these steps"
    void left();  ///< "Leave as it is"

private:
    void addCard(const planner::PlannedStep& step);
    void showPromise();

    planner::Plan plan_;
    QVBoxLayout* layout_;
    QLabel* promise_ = nullptr;
    QLabel* problem_ = nullptr;
    QPushButton* take_ = nullptr;
    std::vector<QCheckBox*> ticks_;
};

} // namespace zl::app
