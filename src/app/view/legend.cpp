#include "app/view/legend.h"

#include "app/theme.h"

#include <QPainter>

namespace zl::app {

QRectF paintLegend(QPainter& painter, const QSizeF& view, double above, double wide,
                   const std::vector<LegendRow>& rows) {
    constexpr double line = 21;
    const double high = line * double(rows.size()) + 14;
    const QRectF plate(16, view.height() - above - high, wide, high);
    QColor back = tokens().paper;
    back.setAlphaF(0.92f);
    painter.setPen(Qt::NoPen);
    painter.setBrush(back);
    painter.drawRoundedRect(plate, 8, 8);
    painter.setFont(Theme::instance().text(12));
    QRectF area(plate.left() + 10, plate.top() + 7, wide - 20, line);
    for (const LegendRow& row : rows) {
        if (row.paintSwatch) row.paintSwatch(painter, {area.left(), area.top() + 4, 20, 13});
        painter.setPen(row.ink);
        const QRectF words = area.adjusted(28, 0, 0, 0);
        painter.drawText(words, Qt::AlignVCenter | Qt::AlignRight, row.value);
        const double room = words.width() - painter.fontMetrics().horizontalAdvance(row.value) - 8;
        painter.drawText(words, Qt::AlignVCenter | Qt::AlignLeft,
                         painter.fontMetrics().elidedText(row.words, Qt::ElideRight, int(room)));
        area.translate(0, line);
    }
    return plate;
}

} // namespace zl::app
