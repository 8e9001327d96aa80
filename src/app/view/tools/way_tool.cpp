#include "app/view/tools/way_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

namespace {

void drawWay(ModelView& view, QPainter& painter, const Label& label, const WayTool::Way& way,
             const QColor& ink, Qt::PenStyle style) {
    if (way.empty()) return;
    QPolygonF line;
    for (const glm::dvec3& place : way.places) line << view.onScreen({place.x, 0, place.z});
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(ink, 3, style));
    painter.drawPolyline(line);
    painter.setPen(QPen(tokens().paper, 2));
    painter.setBrush(ink);
    painter.drawEllipse(line.last(), 5, 5);
    if (!way.words.isEmpty()) label(line.last() + QPointF(0, 10), way.words, ink, true, Qt::AlignHCenter);
}

} // namespace

void WayTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    drawWay(view, painter, label, before, tokens().clay, Qt::DashLine);
    drawWay(view, painter, label, now, tokens().sea, Qt::SolidLine);
}

} // namespace zl::app
