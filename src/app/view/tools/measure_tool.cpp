#include "app/view/tools/measure_tool.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

std::optional<std::pair<glm::dvec3, glm::dvec3>> MeasureTool::measured() const {
    if (points_.size() != 2) return std::nullopt;
    return std::pair{points_[0], points_[1]};
}

bool MeasureTool::press(ModelView& view, const Hand&) {
    return view.scene() != nullptr;
}

void MeasureTool::release(ModelView& view, const Hand& hand) {
    const auto point = hand.hasMoved() ? std::nullopt : view.pointNear(hand.at);
    if (!point) return;
    if (points_.size() == 2) points_.clear();
    points_.push_back(*point);
    Q_EMIT measuredChanged();
    view.repaintOver();
}

std::optional<Qt::CursorShape> MeasureTool::hover(ModelView& view, QPointF at) {
    hovered_ = view.pointNear(at);
    view.repaintOver();
    return Qt::CrossCursor;
}

void MeasureTool::putDown(ModelView& view) {
    points_.clear();
    hovered_.reset();
    Q_EMIT measuredChanged();
    view.repaintOver();
}

void MeasureTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    const Tokens& t = tokens();
    for (const glm::dvec3& point : points_) {
        painter.setPen(QPen(t.paper, 2));
        painter.setBrush(t.zest);
        painter.drawEllipse(view.onScreen(point), 5, 5);
    }
    if (const auto ends = measured()) {
        const QPointF a = view.onScreen(ends->first), b = view.onScreen(ends->second);
        painter.setPen(QPen(t.ink, 1.5, Qt::DashLine));
        painter.drawLine(a, b);
        label((a + b) / 2 + QPointF(0, 8),
              qs(view.sheet()->showBoth(glm::distance(ends->first, ends->second))), t.ink, true,
              Qt::AlignHCenter);
    } else {
        label(QPointF(view.width() / 2.0, view.height() - 40.0),
              points_.empty() ? tr("Click two points on the model") : tr("Click the second point"), t.ink,
              true, Qt::AlignHCenter);
    }
    if (!hovered_) return;
    painter.setPen(QPen(t.ink, 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(view.onScreen(*hovered_), 6, 6);
}

} // namespace zl::app
