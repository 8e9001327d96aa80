#include "app/view/tools/wipe_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

bool WipeTool::isUnder(const ModelView& view, QPointF at) const {
    return view.isComparing() && std::abs(at.x() - x(view.width())) < 14;
}

bool WipeTool::press(ModelView& view, const Hand& hand) {
    return isUnder(view, hand.at);
}

void WipeTool::move(ModelView& view, const Hand& hand) {
    share_ = std::clamp(hand.at.x() / view.width(), 0.02, 0.98);
    view.moved();
}

std::optional<Qt::CursorShape> WipeTool::hover(ModelView& view, QPointF at) {
    return isUnder(view, at) ? std::optional(Qt::SplitHCursor) : std::nullopt;
}

void WipeTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    if (!view.isComparing()) return;
    const Tokens& t = tokens();
    const double x = this->x(view.width()), top = view.takenAbove(), bottom = view.height() - 16;
    painter.setPen(QPen(t.ink, 2));
    painter.drawLine(QPointF(x, top), QPointF(x, bottom));
    painter.setBrush(t.paper);
    painter.drawEllipse(QPointF(x, top + 40), 13, 13);
    painter.setPen(QPen(t.ink, 1.75));
    for (const int side : {-1, 1}) {
        const QPointF tip(x + side * 8, top + 40);
        painter.drawPolyline(QPolygonF({tip - QPointF(side * 4, 4), tip, tip - QPointF(side * 4, -4)}));
    }
    label(QPointF(x - 24, top + 4), view.captionBefore(), t.ink, true, Qt::AlignRight);
    label(QPointF(x + 24, top + 4), view.captionAfter(), t.ink, true, Qt::AlignLeft);
}

} // namespace zl::app
