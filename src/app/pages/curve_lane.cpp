#include "app/pages/curve_lane.h"

#include "app/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>

namespace zl::app {

namespace {

constexpr int tall = 62, legend = 22, rim = 7;
constexpr double grip = 7;         ///< pixels beside a handle that still take it
constexpr double leastPart = 0.01; ///< of the clip that stays between the handles

QColor colourOf(CurveLane::Line::Ink ink) {
    const Tokens& t = tokens();
    switch (ink) {
    case CurveLane::Line::Ink::Leaf:
        return t.leaf;
    case CurveLane::Line::Ink::Amber:
        return t.amber;
    case CurveLane::Line::Ink::Clay:
        return t.clay;
    case CurveLane::Line::Ink::Sea:
        break;
    }
    return t.sea;
}

QPen penOf(const CurveLane::Line& line) {
    QPen pen(colourOf(line.ink), 1.6);
    if (line.dashed) pen.setDashPattern({4, 3});
    return pen;
}

} // namespace

CurveLane::CurveLane(QWidget* parent) : QWidget(parent) {
    setObjectName("curveLane");
    setAccessibleName(tr("How it moves in the course of the clip"));
    setToolTip(tr("Click or drag to a moment; drag the handles at both ends to play a part"));
    setMouseTracking(true);
}

QSize CurveLane::sizeHint() const {
    return {240, tall + legend};
}

QRectF CurveLane::plot() const {
    return QRectF(rim, 0.5, width() - 2 * rim, tall - 1);
}

double CurveLane::xOf(double share) const {
    return plot().left() + share * plot().width();
}

void CurveLane::setLines(std::vector<Line> lines, const QString& message) {
    lines_ = std::move(lines);
    message_ = message;
    update();
}

void CurveLane::setMoment(double share) {
    moment_ = share;
    update();
}

void CurveLane::setRange(double from, double to) {
    from_ = std::clamp(from, 0.0, 1 - leastPart), to_ = std::clamp(to, from_ + leastPart, 1.0);
    update();
}

CurveLane::Held CurveLane::at(double x) const {
    const double toFrom = std::abs(x - xOf(from_)), toTo = std::abs(x - xOf(to_));
    if (std::min(toFrom, toTo) > grip) return Held::Moment;
    return toFrom <= toTo ? Held::From : Held::To;
}

void CurveLane::drag(double x) {
    const double share = std::clamp((x - plot().left()) / plot().width(), 0.0, 1.0);
    if (held_ == Held::Moment) Q_EMIT pointed(share);
    if (held_ == Held::From) setRange(std::min(share, to_ - leastPart), to_);
    if (held_ == Held::To) setRange(from_, std::max(share, from_ + leastPart));
    if (held_ == Held::From || held_ == Held::To) Q_EMIT rangeChanged(from_, to_);
}

void CurveLane::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || event->position().y() > tall) return;
    held_ = at(event->position().x());
    if (held_ == Held::Moment) drag(event->position().x());
}

void CurveLane::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) return drag(event->position().x());
    const bool handle = event->position().y() <= tall && at(event->position().x()) != Held::Moment;
    setCursor(handle ? Qt::SizeHorCursor : Qt::ArrowCursor);
}

void CurveLane::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF area = plot();
    painter.setPen(QPen(t.edge, 1));
    painter.setBrush(t.linen);
    painter.drawRoundedRect(area, 6, 6);
    painter.save();
    painter.setClipRect(area);
    for (const bool degrees : {false, true}) {
        double low = 0, high = 1e-4; // what does not move is a line, and not noise made large
        for (const Line& line : lines_)
            if (line.degrees == degrees)
                for (const double v : line.values) low = std::min(low, v), high = std::max(high, v);
        for (const Line& line : lines_) {
            if (line.degrees != degrees || line.values.size() < 2) continue;
            QPainterPath path;
            for (std::size_t i = 0; i < line.values.size(); ++i) {
                const QPointF p(xOf(double(i) / double(line.values.size() - 1)),
                                area.bottom() - 8 -
                                    (line.values[i] - low) / (high - low) * (area.height() - 16));
                i == 0 ? path.moveTo(p) : path.lineTo(p);
            }
            painter.setBrush(Qt::NoBrush);
            painter.setPen(penOf(line));
            painter.drawPath(path);
        }
    }
    QColor shade = t.paper;
    shade.setAlphaF(0.7f);
    painter.fillRect(QRectF(area.left(), area.top(), xOf(from_) - area.left(), area.height()), shade);
    painter.fillRect(QRectF(xOf(to_), area.top(), area.right() - xOf(to_), area.height()), shade);
    painter.restore();
    for (const double share : {from_, to_}) {
        painter.setPen(QPen(t.dim, 1));
        painter.setBrush(t.paper);
        painter.drawRoundedRect(QRectF(xOf(share) - 3, area.center().y() - 11, 6, 22), 3, 3);
    }
    if (moment_ >= 0) {
        painter.setPen(QPen(t.zest, 2));
        painter.drawLine(QPointF(xOf(moment_), area.top()), QPointF(xOf(moment_), area.bottom()));
    }
    double x = area.left();
    const double middle = tall + legend / 2.0 + 1;
    for (const Line& line : lines_) {
        painter.setPen(penOf(line));
        painter.drawLine(QPointF(x, middle), QPointF(x + 16, middle));
        painter.setPen(t.ink);
        const double wide = fontMetrics().horizontalAdvance(line.label);
        painter.drawText(QRectF(x + 22, tall + 1, wide + 2, legend), Qt::AlignVCenter, line.label);
        x += 22 + wide + 18;
    }
    if (lines_.empty()) {
        painter.setPen(t.dim);
        painter.drawText(QRectF(area.left(), tall + 1, area.width(), legend), Qt::AlignVCenter, message_);
    }
}

} // namespace zl::app
