#include "app/widgets/flow_row.h"

#include <QEvent>

namespace zl::app {

namespace {

constexpr int margin = 12, spacing = 6, gap = 16;

} // namespace

FlowRow::FlowRow(QWidget* parent) : QWidget(parent) {
    parent->installEventFilter(this);
}

void FlowRow::add(QWidget* widget) {
    widget->setParent(this);
    items_.push_back({widget, std::exchange(gapNext_, false)});
    arrange();
}

void FlowRow::addGap() {
    gapNext_ = true;
}

bool FlowRow::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize || event->type() == QEvent::Show ||
        event->type() == QEvent::LayoutRequest)
        arrange();
    return QWidget::eventFilter(watched, event);
}

void FlowRow::arrange() {
    const int wide = parentWidget()->width() - margin;
    int x = margin, y = margin, tall = 0;
    for (const Item& item : items_) {
        if (item.widget->isHidden() && item.widget->testAttribute(Qt::WA_WState_ExplicitShowHide)) continue;
        const QSize size = item.widget->sizeHint();
        if (item.gap && x > margin) x += gap - spacing;
        if (x > margin && x + size.width() > wide) x = margin, y += tall + spacing, tall = 0;
        item.widget->setGeometry(x, y, size.width(), size.height());
        x += size.width() + spacing;
        tall = std::max(tall, size.height());
    }
    setGeometry(0, 0, parentWidget()->width(), y + tall);
    // Only the buttons take the mouse; the view below keeps what lies between them.
    QRegion taken;
    for (const Item& item : items_) taken += item.widget->geometry();
    setMask(taken);
}

} // namespace zl::app
