#include "app/sheets/things_beside.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/units.h"

#include <QPainter>
#include <QPainterPath>

namespace zl::app {

ThingsBeside::ThingsBeside(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(210);
    setObjectName("thingsBeside");
}

void ThingsBeside::show(const platform::Sheet& sheet) {
    metres_ = sheet.metresPerUnit, figure_ = sheet.figureHeight * sheet.metresPerUnit;
    unit_ = qs(sheet.unitName);
    axes_ = tr("%1 up, front to %2").arg(sheet.up == Up::Y ? "Y" : "Z", qs(sheet.front));
    setAccessibleName(
        tr("A figure is %1, a door %2").arg(qs(sheet.showBoth(figure_)), qs(sheet.showBoth(2.05))));
    update();
}

void ThingsBeside::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QLinearGradient ground(0, 0, 0, height());
    ground.setColorAt(0, t.mistTop), ground.setColorAt(1, t.mistBottom);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ground);
    painter.drawRoundedRect(rect(), 9, 9);
    const double floor = height() - 34, tallest = std::max(2.05, figure_), scale = (floor - 34) / tallest;
    painter.setPen(QPen(t.dim, 1));
    painter.drawLine(QPointF(16, floor), QPointF(width() - 16, floor));
    struct Thing {
        QString name;
        double high, wide;
        bool figure;
    };
    const Thing things[] = {{tr("figure"), figure_, figure_ * 0.28, true},
                            {tr("door"), 2.05, 0.9, false},
                            {tr("crate"), 0.8, 0.8, false},
                            {tr("cup"), 0.1, 0.08, false}};
    double x = 46;
    for (const Thing& thing : things) {
        const double high = std::max(2.0, thing.high * scale), wide = std::max(2.0, thing.wide * scale);
        const QRectF box(x, floor - high, wide, high);
        painter.setPen(Qt::NoPen);
        painter.setBrush(thing.figure ? t.sea : t.zest);
        if (thing.figure) {
            const double head = high * 0.07;
            painter.drawEllipse(QPointF(box.center().x(), box.top() + head), head, head);
            painter.drawRoundedRect(QRectF(box.left(), box.top() + 2.2 * head, wide, high * 0.42), wide / 3,
                                    wide / 3);
            painter.drawRoundedRect(
                QRectF(box.left() + wide * 0.12, box.top() + high * 0.5, wide * 0.3, high * 0.5), 3, 3);
            painter.drawRoundedRect(
                QRectF(box.left() + wide * 0.58, box.top() + high * 0.5, wide * 0.3, high * 0.5), 3, 3);
        } else {
            painter.drawRoundedRect(box, std::min(3.0, wide / 4), std::min(3.0, wide / 4));
        }
        painter.setPen(t.ink);
        painter.setFont(Theme::instance().text(12, 500));
        const QString words = QString("%1 %2").arg(qs(showMeasure(thing.high / metres_)), unit_);
        painter.drawText(QRectF(x - 40, box.top() - 20, wide + 80, 18), Qt::AlignCenter, words);
        painter.setPen(t.dim);
        painter.setFont(Theme::instance().text(12));
        painter.drawText(QRectF(x - 40, floor + 6, wide + 80, 18), Qt::AlignCenter, thing.name);
        x += wide + 84;
    }
    painter.setPen(t.dim);
    painter.drawText(QRectF(width() - 236, 12, 220, 18), Qt::AlignRight | Qt::AlignVCenter, axes_);
}

} // namespace zl::app
