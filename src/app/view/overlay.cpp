#include "app/view/overlay.h"

#include "app/theme.h"

#include <algorithm>

namespace zl::app {

void paintLabel(QPainter& painter, QPointF at, const QString& text, const QColor& ink, bool plated,
                Qt::Alignment align, std::vector<QRectF>* taken) {
    painter.setFont(Theme::instance().text(12, 500));
    const QSizeF size = painter.fontMetrics().size(0, text);
    QRectF box(at, size);
    if (align & Qt::AlignHCenter) box.moveLeft(at.x() - size.width() / 2);
    if (align & Qt::AlignRight) box.moveLeft(at.x() - size.width());
    // A widget tells its width in the painter's own units already; a picture of it in pixels.
    const QPaintDevice& onto = *painter.device();
    const double wide =
        onto.devType() == QInternal::Widget ? onto.width() : onto.width() / onto.devicePixelRatioF();
    box.moveLeft(std::clamp(box.left(), 8.0, std::max(8.0, wide - size.width() - 8)));
    // A label at the edge is kept whole; one beyond it belongs to something that is out of sight.
    const double high =
        onto.devType() == QInternal::Widget ? onto.height() : onto.height() / onto.devicePixelRatioF();
    if (box.top() < high && box.bottom() > 0)
        box.moveTop(std::clamp(box.top(), 6.0, std::max(6.0, high - size.height() - 6)));
    const auto plateOf = [](const QRectF& words) { return words.adjusted(-7, -3, 7, 3); };
    if (plated && taken) {
        constexpr int mostMoves = 8;
        const QRectF wanted = box;
        const auto makeWay = [&](bool down) {
            box = wanted;
            for (int i = 0; i < mostMoves; ++i) {
                const auto inWay = std::ranges::find_if(
                    *taken, [&](const QRectF& other) { return other.intersects(plateOf(box)); });
                if (inWay == taken->end()) break;
                if (down)
                    box.moveTop(inWay->bottom() + 5);
                else
                    box.moveBottom(inWay->top() - 5);
            }
        };
        makeWay(true);
        if (box.bottom() > high - 3 && wanted.bottom() <= high - 3) makeWay(false);
        taken->push_back(plateOf(box));
    }
    if (plated) {
        QColor back = tokens().paper;
        back.setAlphaF(0.88f);
        painter.setPen(Qt::NoPen);
        painter.setBrush(back);
        painter.drawRoundedRect(plateOf(box), 5, 5);
    }
    painter.setPen(ink);
    painter.drawText(box, Qt::AlignCenter, text);
}

} // namespace zl::app
