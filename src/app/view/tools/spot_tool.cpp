#include "app/view/tools/spot_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

std::optional<Qt::CursorShape> SpotTool::hover(ModelView& view, QPointF at) {
    if (pointed) pointed(view.pick(at));
    return std::nullopt;
}

void SpotTool::draw(ModelView& view, QPainter& painter, const Label&) {
    if (!spot) return;
    const QPointF at = view.onScreen(*spot);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Qt::white, 4));
    painter.drawEllipse(at, 8, 8);
    painter.setPen(QPen(tokens().zest, 2));
    painter.drawEllipse(at, 8, 8);
}

} // namespace zl::app
