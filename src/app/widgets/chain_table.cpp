#include "app/widgets/chain_table.h"

#include "app/qt_text.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QLabel>

namespace zl::app {

QString fateText(chain::Fate fate) {
    switch (fate) {
    case chain::Fate::Kept:
        return QObject::tr("kept");
    case chain::Fate::Changed:
        return QObject::tr("changed");
    case chain::Fate::Lost:
        return QObject::tr("lost");
    case chain::Fate::PutBack:
        return QObject::tr("put back");
    case chain::Fate::None:
        break;
    }
    return QString::fromUtf8("–");
}

ChainTable::ChainTable(QWidget* parent) : QWidget(parent) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(3);
}

void ChainTable::showExpected(const std::vector<chain::LegPlan>& legs, const chain::Facts& facts) {
    std::vector<std::pair<QString, chain::Verdicts>> columns;
    for (const auto& leg : legs)
        columns.emplace_back(QString::fromUtf8(leg.format->name.data(), qsizetype(leg.format->name.size())),
                             chain::expected(leg, facts));
    fill(columns);
}

void ChainTable::showMeasured(const std::vector<chain::LegResult>& legs) {
    std::vector<std::pair<QString, chain::Verdicts>> columns;
    for (const auto& leg : legs) {
        const auto* format = formats::formatWithId(leg.format);
        columns.emplace_back(format ? QString::fromUtf8(format->name.data(), qsizetype(format->name.size()))
                                    : qs(leg.format),
                             leg.measured);
    }
    fill(columns);
}

void ChainTable::fill(const std::vector<std::pair<QString, chain::Verdicts>>& legs) {
    clearLayout(grid_);
    for (std::size_t c = 0; c < legs.size(); ++c) {
        auto* head = textLabel(legs[c].first, "dim");
        head->setAlignment(Qt::AlignHCenter | Qt::AlignBottom);
        grid_->addWidget(head, 0, int(c) + 1);
        grid_->setColumnStretch(int(c) + 1, 1);
    }
    int row = 1;
    for (const auto aspect : formats::allAspects()) {
        bool any = false;
        for (const auto& leg : legs) any |= leg.second.at(aspect).fate != chain::Fate::None;
        if (!any) continue; // what the model has nothing of needs no line
        auto* name = textLabel(qs(formats::aspectName(aspect)));
        name->setWordWrap(false);
        grid_->addWidget(name, row, 0);
        for (std::size_t c = 0; c < legs.size(); ++c) {
            const auto& verdict = legs[c].second.at(aspect);
            using chain::Fate;
            const Mark mark = verdict.fate == Fate::Kept                                       ? Mark::Fits
                              : verdict.fate == Fate::Lost                                     ? Mark::Broken
                              : verdict.fate == Fate::Changed || verdict.fate == Fate::PutBack ? Mark::Tight
                                                                                               : Mark::None;
            auto* cell = textLabel(fateText(verdict.fate), verdict.fate == Fate::Kept   ? "good"
                                                           : verdict.fate == Fate::Lost ? "bad"
                                                           : mark == Mark::Tight        ? "warn"
                                                                                        : "dim");
            cell->setWordWrap(false);
            cell->setAlignment(Qt::AlignHCenter);
            cell->setToolTip(qs(verdict.words));
            cell->setAccessibleName(
                tr("%1 in %2: %3")
                    .arg(qs(formats::aspectName(aspect)), legs[c].first, fateText(verdict.fate)));
            grid_->addWidget(cell, row, int(c) + 1);
        }
        ++row;
    }
    if (row == 1) grid_->addWidget(textLabel(tr("There is nothing to carry yet."), "dim"), 1, 0);
}

} // namespace zl::app
