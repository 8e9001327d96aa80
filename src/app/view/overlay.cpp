#include "app/view/overlay.h"

#include "app/theme.h"

namespace zl::app {

void paintLabel(QPainter& painter, QPointF at, const QString& text, const QColor& ink, bool plated,
                Qt::Alignment align) {
    painter.setFont(Theme::instance().text(12, 500));
    const QSizeF size = painter.fontMetrics().size(0, text);
    QRectF box(at, size);
    if (align & Qt::AlignHCenter) box.moveLeft(at.x() - size.width() / 2);
    if (align & Qt::AlignRight) box.moveLeft(at.x() - size.width());
    // A widget tells its width in the painter's own units already; a picture of it in pixels.
    const QPaintDevice& onto = *painter.device();
    const double wide = onto.devType() == QInternal::Widget ? onto.width() : onto.width() / onto.devicePixelRatioF();
    box.moveLeft(std::clamp(box.left(), 8.0, std::max(8.0, wide - size.width() - 8)));
    if (plated) {
        QColor back = tokens().paper;
        back.setAlphaF(0.88f);
        painter.setPen(Qt::NoPen);
        painter.setBrush(back);
        painter.drawRoundedRect(box.adjusted(-7, -3, 7, 3), 5, 5);
    }
    painter.setPen(ink);
    painter.drawText(box, Qt::AlignCenter, text);
}

} // namespace zl::app
