#pragma once
#include <QColor>
#include <QRectF>
#include <QString>

#include <functional>
#include <vector>

class QPainter;

namespace zl::app {

struct LegendRow {
    std::function<void(QPainter&, const QRectF& swatch)> paintSwatch; ///< none for a row of words alone
    QString words;
    QString value; ///< at the right; words are cut short before it
    QColor ink;
};

/// What colours and lines over a view stand for, on a plate at the bottom left, `above` pixels over the
/// view's lower edge and as wide as its words. The plate that was painted.
QRectF paintLegend(QPainter& painter, const QSizeF& view, double above, const std::vector<LegendRow>& rows);

} // namespace zl::app
