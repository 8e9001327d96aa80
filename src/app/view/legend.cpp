#include "app/view/legend.h"

#include "app/theme.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace zl::app {

QRectF paintLegend(QPainter& painter, const QSizeF& view, double above, const std::vector<LegendRow>& rows) {
    constexpr double line = 21, swatch = 28, between = 16, rim = 10;
    painter.setFont(Theme::instance().text(12));
    const auto advance = [&](const QString& words) {
        return double(painter.fontMetrics().horizontalAdvance(words));
    };
    double wide = 180;
    for (const LegendRow& row : rows)
        wide = std::max(wide, swatch + advance(row.words) + between + advance(row.value) + 2 * rim);
    wide = std::ceil(std::min({wide, 380.0, view.width() - 32}));
    const double high = line * double(rows.size()) + 14;
    const QRectF plate(16, view.height() - above - high, wide, high);
    QColor back = tokens().paper;
    back.setAlphaF(0.92f);
    painter.setPen(Qt::NoPen);
    painter.setBrush(back);
    painter.drawRoundedRect(plate, 8, 8);
    QRectF area(plate.left() + rim, plate.top() + 7, wide - 2 * rim, line);
    for (const LegendRow& row : rows) {
        if (row.paintSwatch) row.paintSwatch(painter, {area.left(), area.top() + 4, 20, 13});
        painter.setPen(row.ink);
        const QRectF words = area.adjusted(swatch, 0, 0, 0);
        painter.drawText(words, Qt::AlignVCenter | Qt::AlignRight, row.value);
        const double room = words.width() - advance(row.value) - between / 2;
        painter.drawText(words, Qt::AlignVCenter | Qt::AlignLeft,
                         painter.fontMetrics().elidedText(row.words, Qt::ElideRight, int(room)));
        area.translate(0, line);
    }
    return plate;
}

} // namespace zl::app
