#include "app/widgets/flow_row.h"

#include <QEvent>
#include <QToolButton>

namespace zl::app {

namespace {

constexpr int margin = 12, spacing = 6, gap = 12;

} // namespace

FlowRow::FlowRow(QWidget* parent, Qt::Edge along) : QWidget(parent), along_(along) {
    parent->installEventFilter(this);
}

void FlowRow::add(QWidget* widget) {
    widget->setParent(this);
    if (isVisible())
        widget->show(); // Qt shows children along with their parent, but not those that come later
    items_.push_back({widget, std::exchange(gapNext_, false)});
    arrange();
}

QToolButton* FlowRow::addButton(const char* name, const QString& text, const QString& tip) {
    auto* made = new QToolButton;
    made->setObjectName(QString("mode-") + name);
    made->setText(text);
    made->setToolTip(tip);
    made->setProperty("mode", true);
    add(made);
    return made;
}

void FlowRow::addGap() {
    gapNext_ = true;
}

void FlowRow::clear() {
    for (const Item& item : items_) item.widget->hide(), item.widget->deleteLater();
    items_.clear();
    gapNext_ = false;
    arrange();
}

bool FlowRow::event(QEvent* event) {
    if (event->type() == QEvent::LayoutRequest) arrange(); // one of its widgets came, went or grew
    return QWidget::event(event);
}

bool FlowRow::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize || event->type() == QEvent::Show ||
        event->type() == QEvent::LayoutRequest)
        arrange();
    return QWidget::eventFilter(watched, event);
}

void FlowRow::arrange() {
    const auto isIn = [](const Item& item) {
        return !item.widget->isHidden() || !item.widget->testAttribute(Qt::WA_WState_ExplicitShowHide);
    };
    int tall = 0;
    for (const Item& item : items_)
        if (isIn(item)) tall = std::max(tall, item.widget->sizeHint().height());
    const int wide = parentWidget()->width() - margin;
    int x = margin, y = margin;
    for (const Item& item : items_) {
        if (!isIn(item)) continue;
        const int width = item.widget->sizeHint().width();
        if (item.gap && x > margin) x += gap - spacing;
        if (x > margin && x + width > wide) x = margin, y += tall + spacing;
        item.widget->setGeometry(x, y, width, tall);
        x += width + spacing;
    }
    const int all = y + tall + margin;
    setGeometry(0, along_ == Qt::TopEdge ? 0 : parentWidget()->height() - all, parentWidget()->width(), all);
    // Only the buttons take the mouse; the view below keeps what lies between them.
    QRegion taken;
    for (const Item& item : items_) taken += item.widget->geometry();
    setMask(taken);
}

} // namespace zl::app
