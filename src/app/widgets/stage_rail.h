#pragma once
#include "app/widgets/mark.h"
#include "core/steps/step.h"

#include <QAbstractButton>

#include <map>

namespace zl::app {

/// One stage on the thread: a knot whose shape and colour say how it stands, and its name.
class StageKnot : public QAbstractButton {
    Q_OBJECT
public:
    StageKnot(steps::Stage stage, int number, QWidget* parent);
    void setMark(Mark mark);
    steps::Stage stage() const { return stage_; }
    QSize sizeHint() const override { return {92, 58}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    steps::Stage stage_;
    Mark mark_ = Mark::None;
};

/// The stages that have something to do, strung on one thread.
class StageRail : public QWidget {
    Q_OBJECT
public:
    explicit StageRail(QWidget* parent = nullptr);
    void setMark(steps::Stage stage, Mark mark);
    void select(steps::Stage stage);
    void setShown(steps::Stage stage, bool shown);
    static const std::vector<steps::Stage>& stages();

    /// What opens the list of parts, at the thread's foot.
    QAbstractButton& partsButton() { return *parts_; }

Q_SIGNALS:
    void chosen(zl::steps::Stage stage);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::map<steps::Stage, StageKnot*> knots_;
    QAbstractButton* parts_;
};

QString stageTitle(steps::Stage stage);

} // namespace zl::app
