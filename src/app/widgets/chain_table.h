#pragma once
#include "core/chain/chain.h"

#include <QWidget>

class QGridLayout;

namespace zl::app {

/// What people care about as rows, the legs of a chain as columns; cells say kept, changed, lost or put back.
class ChainTable : public QWidget {
    Q_OBJECT
public:
    explicit ChainTable(QWidget* parent = nullptr);
    /// As expected: nothing was written yet.
    void showExpected(const std::vector<chain::LegPlan>& legs, const chain::Facts& facts);
    /// As measured after a run.
    void showMeasured(const std::vector<chain::LegResult>& legs);

private:
    void fill(const std::vector<std::pair<QString, chain::Verdicts>>& legs);
    QGridLayout* grid_;
};

/// "kept", "changed", "lost", "put back", "–".
QString fateText(chain::Fate fate);

} // namespace zl::app
