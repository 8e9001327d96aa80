#include "app/widgets/look_pad.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace zl::app {

LookPad::LookPad(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMinimumHeight(96);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::CrossCursor);
    setAccessibleName(tr("Where it looks"));
    setToolTip(tr("Drag the point to where it shall look; a double click brings it back"));
}

void LookPad::setPoint(const QPointF& point) {
    const QPointF held(std::clamp(point.x(), -1.0, 1.0), std::clamp(point.y(), -1.0, 1.0));
    if (held == point_) return;
    point_ = held;
    update();
    Q_EMIT moved(point_);
}

void LookPad::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(hasFocus() ? t.sea : t.edge, hasFocus() ? 2 : 1));
    painter.setBrush(t.mistBottom);
    const QRectF pane = QRectF(rect()).adjusted(1, 1, -1, -1);
    painter.drawRoundedRect(pane, 6, 6);
    painter.setPen(QPen(t.dim, 1, Qt::DotLine));
    painter.drawLine(QPointF(pane.center().x(), pane.top() + 6),
                     QPointF(pane.center().x(), pane.bottom() - 6));
    painter.drawLine(QPointF(pane.left() + 6, pane.center().y()),
                     QPointF(pane.right() - 6, pane.center().y()));
    const QPointF at(pane.center().x() + point_.x() * (pane.width() / 2 - 9),
                     pane.center().y() - point_.y() * (pane.height() / 2 - 9));
    painter.setPen(QPen(t.paper, 2));
    painter.setBrush(t.zest);
    painter.drawEllipse(at, 7, 7);
}

void LookPad::take(const QPointF& at) {
    setPoint(
        {(at.x() - width() / 2.0) / (width() / 2.0 - 10), (height() / 2.0 - at.y()) / (height() / 2.0 - 10)});
}

void LookPad::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) take(event->position());
}

void LookPad::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) take(event->position());
}

void LookPad::mouseDoubleClickEvent(QMouseEvent*) {
    setPoint({0, 0});
}

void LookPad::keyPressEvent(QKeyEvent* event) {
    constexpr double by = 0.1;
    switch (event->key()) {
    case Qt::Key_Left:
        return setPoint(point_ - QPointF(by, 0));
    case Qt::Key_Right:
        return setPoint(point_ + QPointF(by, 0));
    case Qt::Key_Up:
        return setPoint(point_ + QPointF(0, by));
    case Qt::Key_Down:
        return setPoint(point_ - QPointF(0, by));
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace zl::app
