// The words and marks that are painted over the view.
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/flow_row.h"
#include "app/view/backdrop.h"
#include "app/view/front_arrow.h"
#include "app/view/model_view.h"

#include <QPainter>

namespace zl::app {

int ModelView::takenAbove() const {
    int taken = 0;
    for (const auto* row : findChildren<FlowRow*>())
        if (row->y() == 0) taken = std::max(taken, row->height());
    return taken;
}

namespace {

/// What colours of heat mean, from 0 to `most`.
void drawScale(QPainter& painter, const Label& label, const QString& words, const QString& most,
               std::vector<QRectF>& taken) {
    const Tokens& t = tokens();
    const QPaintDevice& onto = *painter.device();
    const double high =
        onto.devType() == QInternal::Widget ? onto.height() : onto.height() / onto.devicePixelRatioF();
    const QRectF bar(28, high - 112, 236, 12);
    QLinearGradient scale(bar.topLeft(), bar.topRight());
    scale.setColorAt(0, QColor::fromRgbF(0.24f, 0.29f, 0.54f));
    scale.setColorAt(0.333, QColor::fromRgbF(0.13f, 0.57f, 0.55f));
    scale.setColorAt(0.667, QColor::fromRgbF(0.48f, 0.77f, 0.38f));
    scale.setColorAt(1, QColor::fromRgbF(0.97f, 0.87f, 0.20f));
    QColor back = t.paper;
    back.setAlphaF(0.9f);
    painter.setPen(Qt::NoPen);
    painter.setBrush(back);
    const QRectF plate = bar.adjusted(-12, -28, 12, 28);
    painter.drawRoundedRect(plate, 8, 8);
    taken.push_back(plate);
    painter.setBrush(scale);
    painter.drawRoundedRect(bar, 3, 3);
    label(bar.topLeft() - QPointF(0, 20), words, t.ink, false, Qt::AlignLeft);
    label(bar.bottomLeft() + QPointF(0, 5), "0", t.ink, false, Qt::AlignLeft);
    label(bar.bottomRight() + QPointF(0, 5), most, t.ink, false, Qt::AlignRight);
}

} // namespace

void ModelView::drawLabels(QPainter& painter) {
    const Tokens& t = tokens();
    std::vector<QRectF> taken;
    for (const auto* row : findChildren<FlowRow*>()) // buttons lie over the view
        for (const QWidget* button : row->findChildren<QWidget*>(Qt::FindDirectChildrenOnly))
            if (button->isVisible())
                taken.emplace_back(QRect(button->mapTo(this, QPoint(0, 0)), button->size()));
    const auto label = [&](QPointF at, const QString& text, const QColor& ink, bool plated = true,
                           Qt::Alignment align = Qt::AlignHCenter) {
        paintLabel(painter, at, text, ink, plated, align, &taken);
    };
    if (!message_.isEmpty()) {
        painter.setFont(Theme::instance().text(14));
        painter.setPen(t.dim);
        painter.drawText(rect().adjusted(60, 60, -60, -60), Qt::AlignCenter | Qt::TextWordWrap, message_);
    }
    if (!after_.scene || !sheet_) return;
    if (difference_) taken.push_back(paintDifferenceLegend(painter, size(), 54, *difference_));
    if (!surfaces_.empty()) taken.push_back(surfaces_.paintLegend(painter, size(), 54));
    if (showFigure)
        label(onScreen(figureFoot()) + QPointF(0, 8),
              tr("figure %1").arg(QString::fromStdString(sheet_->showLength(sheet_->figureMetres()))), t.sea);

    const auto& b = after_.scene->bounds;
    if (front_ && !b.empty()) {
        // Beyond the tip, so that the arrow itself stays in sight.
        const FrontArrow arrow(b, front_->angle);
        const QPointF tip = onScreen(arrow.to);
        const bool awayFromUs = tip.y() < onScreen(arrow.from).y();
        label(tip + QPointF(0, awayFromUs ? -34 : 8), front_->words, front_->known ? t.ink : t.dim);
    }
    if (stack && !b.empty()) {
        const double tall = stackCount() * b.size().y;
        label(onScreen(besideFoot()) + QPointF(0, 8),
              tr("%1 stand %2 high, %3 figures")
                  .arg(stackCount())
                  .arg(qs(sheet_->showLength(tall)), qs(showMeasure(tall / sheet_->figureMetres()))),
              t.ink);
    } else if (showYardstick && yardstick_.scene) {
        label(onScreen(besideFoot()) + QPointF(0, 8), yardstickCaption_, t.sea);
    }

    if (holdingBefore_ && !isComparing())
        label(QPointF(width() / 2.0, 66),
              before_.scene ? captionBefore_ : tr("nothing changes the shape yet"), t.ink);

    if (posed_.scene && !posed_.scene->weighed.empty())
        drawScale(painter, label,
                  tr("how much hangs on %1").arg(QString::fromStdString(posed_.scene->weighed)), "1", taken);
    else if (deviation && heated_.scene && heated_.scene->blockEdges.w > 0)
        drawScale(painter, label, tr("distance from the model, in blocks"),
                  qs(showMeasure(hottest_ / double(heated_.scene->blockEdges.w))), taken);
    else if (deviation && heated_.scene)
        drawScale(painter, label, tr("distance from before, share of height"),
                  QString::fromStdString(
                      showMeasure(100 * hottest_ / std::max(1e-12, after_.scene->bounds.size().y))) +
                      " %",
                  taken);

    for (ViewTool* tool : tools()) tool->draw(*this, painter, label);
    if (!selected_.empty() && !selectedCorners_.empty() && tool_ == &look_) {
        const auto& parts = selected_.parts();
        const auto triangles = long(selectedCorners_.size() / 3);
        label(QPointF(width() / 2.0, height() - 40.0),
              parts.size() > 1 ? tr("%1 parts selected").arg(parts.size())
                               : tr("%1, %2").arg(qs(selection::inWords(selected_.asSelection())),
                                                  qs(showCount(triangles, "triangle", "triangles"))),
              t.sea);
    }
    if (showCollider && !difference_)
        for (const auto& number : bodies_.numbers()) label(onScreen(number.at), number.text, number.colour);
    if (!highlightLabel_.isEmpty()) label(QPointF(width() / 2.0, height() - 70.0), highlightLabel_, t.clay);

    double extent = sheet_->figureMetres();
    if (!after_.scene->bounds.empty())
        extent = std::max({extent * 0.5, after_.scene->bounds.size().x, after_.scene->bounds.size().y,
                           after_.scene->bounds.size().z});
    label(QPointF(width() - 14.0, height() - 26.0),
          tr("one square %1")
              .arg(QString::fromStdString(sheet_->showLength(gridStep(extent, sheet_->metresPerUnit)))),
          t.dim, false, Qt::AlignRight);
}

} // namespace zl::app
