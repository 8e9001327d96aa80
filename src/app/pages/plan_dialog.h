#pragma once
#include "core/planner/planner.h"

#include <QDialog>

class QCheckBox;
class QLabel;
class QPushButton;

namespace zl::app {

/// Shows a suggested plan, one line a step with before → after; each can be left out.
class PlanDialog : public QDialog {
    Q_OBJECT
public:
    PlanDialog(const planner::Plan& plan, const QString& piece, const QString& platform, QWidget* parent);
    /// The lines that stayed ticked.
    recipe::Recipe chosen() const;

private:
    void showPromise();
    planner::Plan plan_;
    QLabel* promise_;
    std::vector<QCheckBox*> ticks_;
};

} // namespace zl::app
