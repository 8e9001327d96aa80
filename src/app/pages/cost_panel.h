#pragma once
#include "core/platform/cost.h"

#include <QWidget>

class QLabel;
class QSpinBox;

namespace zl::app {

/// What copies of a piece take on a platform: memory at each quality of its importer, time for a frame, and
/// how many copies each limit holds.
class CostPanel : public QWidget {
    Q_OBJECT
public:
    explicit CostPanel(QWidget* parent = nullptr);
    /// Hidden where the sheet says nothing of what it can hold.
    void show(const platform::Cost& cost, const platform::Sheet& sheet);

private:
    void tell();

    platform::Cost cost_;
    platform::SheetCost sheet_;
    QSpinBox* copies_;
    QLabel *facts_, *qualities_, *limits_;
};

} // namespace zl::app
