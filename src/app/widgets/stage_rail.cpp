#include "app/widgets/stage_rail.h"

#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QPainter>
#include <QPushButton>
#include <QStyleOption>
#include <QVBoxLayout>

namespace zl::app {

using steps::Stage;

QString stageTitle(Stage stage) {
    const auto name = steps::stageName(stage);
    return QString::fromUtf8(name.data(), qsizetype(name.size()));
}

StageKnot::StageKnot(Stage stage, int number, QWidget* parent) : QAbstractButton(parent), stage_(stage) {
    setCheckable(true);
    setAutoExclusive(true);
    setText(stageTitle(stage));
    setObjectName("stage-" + stageTitle(stage).toLower());
    setShortcut(QKeySequence(QString("Ctrl+%1").arg(number)));
    setToolTip(tr("%1 (Ctrl+%2)").arg(text()).arg(number));
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::StrongFocus);
    setMark(Mark::None);
}

void StageKnot::setMark(Mark mark) {
    mark_ = mark;
    setAccessibleName(mark == Mark::None ? text() : tr("%1, %2").arg(text(), markText(mark)));
    update();
}

void StageKnot::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QPointF knot(23, height() / 2.0);
    if (underMouse() && !isChecked()) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.linen);
        painter.drawRoundedRect(rect().adjusted(4, 6, -4, -6), 8, 8);
    }
    if (isChecked()) {
        painter.setPen(QPen(t.zest, 2));
        painter.setBrush(t.zestSoft);
        painter.drawRoundedRect(QRectF(knot - QPointF(14, 14), QSizeF(28, 28)), 9, 9);
    } else {
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.paper);
        painter.drawEllipse(knot, 12, 12);
    }
    if (mark_ == Mark::None || mark_ == Mark::Busy) {
        painter.setPen(QPen(t.edge.darker(115), 2));
        painter.setBrush(t.paper);
        painter.drawEllipse(knot, 9, 9);
        if (mark_ == Mark::Busy) paintMark(painter, mark_, knot, 14);
    } else if (mark_ == Mark::Broken) {
        paintMark(painter, mark_, knot, 22);
    } else {
        painter.setPen(Qt::NoPen);
        painter.setBrush(markSoft(mark_));
        painter.drawEllipse(knot, 10.5, 10.5);
        painter.setPen(QPen(markInk(mark_), 1.5));
        painter.drawEllipse(knot, 10, 10);
        paintMark(painter, mark_, knot, 12);
    }
    painter.setFont(Theme::instance().heading(13));
    painter.setPen(isChecked() ? t.ink : t.dim);
    painter.drawText(QRectF(41, 0, width() - 41, height()), Qt::AlignVCenter | Qt::AlignLeft, text());
    if (hasFocus()) {
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(rect().adjusted(3, 6, -3, -6), 8, 8);
    }
}

const std::vector<Stage>& StageRail::stages() {
    static const std::vector<Stage> list{Stage::Gather, Stage::Place,   Stage::Shape,  Stage::Surface,
                                         Stage::Motion, Stage::Contact, Stage::Deliver};
    return list;
}

StageRail::StageRail(QWidget* parent) : QWidget(parent) {
    setObjectName("stageRail");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(110);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(2, 18, 2, 18);
    layout->setSpacing(4);
    for (const Stage stage : stages()) {
        auto* knot = new StageKnot(stage, int(stage) + 1, this); // numbers stay when a stage comes in between
        knots_[stage] = knot;
        layout->addWidget(knot);
        connect(knot, &QAbstractButton::clicked, this, [this, stage] { Q_EMIT chosen(stage); });
    }
    layout->addStretch(1);
    auto* parts = button(tr("Parts"));
    parts->setObjectName("openParts");
    parts->setCheckable(true);
    parts->setToolTip(tr("All parts of the piece, to find, select and hide (Ctrl+P)"));
    parts->setShortcut(QKeySequence("Ctrl+P"));
    layout->addWidget(parts);
    parts_ = parts;
    layout->setContentsMargins(9, 18, 9, 12);
    connect(&Theme::instance(), &Theme::changed, this, qOverload<>(&QWidget::update));
}

void StageRail::setMark(Stage stage, Mark mark) {
    if (const auto found = knots_.find(stage); found != knots_.end()) found->second->setMark(mark);
}

void StageRail::select(Stage stage) {
    if (const auto found = knots_.find(stage); found != knots_.end()) found->second->setChecked(true);
}

void StageRail::setShown(Stage stage, bool shown) {
    if (const auto found = knots_.find(stage); found != knots_.end()) found->second->setVisible(shown);
}

void StageRail::paintEvent(QPaintEvent* event) {
    QStyleOption option;
    option.initFrom(this);
    QPainter painter(this);
    style()->drawPrimitive(QStyle::PE_Widget, &option, &painter, this);
    const auto* first = knots_.begin()->second;
    const StageKnot* last = first;
    for (const auto& [stage, knot] : knots_)
        if (knot->isVisible()) last = knot;
    painter.setPen(QPen(tokens().edge, 2));
    painter.drawLine(QPointF(first->x() + 23, first->y() + first->height() / 2.0),
                     QPointF(first->x() + 23, last->y() + last->height() / 2.0));
    Q_UNUSED(event);
}

} // namespace zl::app
