#include "app/widgets/mark.h"

#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QLabel>
#include <QVBoxLayout>

#include <QCoreApplication>

namespace zl::app {

Mark markOf(const platform::RuleResult& rule) {
    if (rule.state == platform::State::Broken)
        return rule.severity == platform::Severity::Must ? Mark::Broken : Mark::Tight;
    return rule.state == platform::State::Tight ? Mark::Tight : Mark::Fits;
}

Mark markOf(const platform::FitReport& report) {
    Mark worst = Mark::Fits;
    for (const auto& rule : report.rules) worst = std::max(worst, markOf(rule));
    return worst;
}

QColor markInk(Mark mark) {
    const Tokens& t = tokens();
    return mark == Mark::Fits     ? t.leaf
           : mark == Mark::Tight  ? t.amber
           : mark == Mark::Broken ? t.clay
                                  : t.dim;
}

QColor markSoft(Mark mark) {
    const Tokens& t = tokens();
    return mark == Mark::Fits     ? t.leafSoft
           : mark == Mark::Tight  ? t.zestSoft
           : mark == Mark::Broken ? t.claySoft
                                  : t.linen;
}

QString markText(Mark mark) {
    switch (mark) {
    case Mark::Fits:
        return QCoreApplication::translate("Mark", "fits");
    case Mark::Tight:
        return QCoreApplication::translate("Mark", "needs a look");
    case Mark::Broken:
        return QCoreApplication::translate("Mark", "breaks a limit");
    case Mark::Busy:
        return QCoreApplication::translate("Mark", "being checked");
    case Mark::None:
        return QCoreApplication::translate("Mark", "not set up");
    }
    return {};
}

void paintMark(QPainter& painter, Mark mark, QPointF at, double size) {
    const double h = size / 2;
    const QColor ink = markInk(mark);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(at);
    QPen pen(ink, std::max(1.6, size * 0.14), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    if (mark == Mark::Fits) {
        painter.drawPolyline(QPolygonF({{-h * 0.75, 0}, {-h * 0.2, h * 0.55}, {h * 0.8, -h * 0.6}}));
    } else if (mark == Mark::Tight) {
        painter.setBrush(ink);
        painter.setPen(QPen(ink, 1, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolygon(QPolygonF({{-h * 0.6, -h * 0.85}, {h * 0.6, -h * 0.85}, {0, 0}}));
        painter.drawPolygon(QPolygonF({{-h * 0.6, h * 0.85}, {h * 0.6, h * 0.85}, {0, 0}}));
    } else if (mark == Mark::Broken) {
        painter.setBrush(ink);
        painter.setPen(Qt::NoPen);
        painter.drawRoundedRect(QRectF(-h * 0.85, -h * 0.85, 1.7 * h, 1.7 * h), 2.5, 2.5);
        painter.setPen(QPen(tokens().paper, std::max(1.5, size * 0.13), Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(QPointF(0, -h * 0.45), QPointF(0, h * 0.08));
        painter.drawPoint(QPointF(0, h * 0.45));
    } else if (mark == Mark::Busy) {
        painter.setBrush(ink);
        painter.setPen(Qt::NoPen);
        for (int i = -1; i <= 1; ++i) painter.drawEllipse(QPointF(i * h * 0.6, 0), h * 0.16, h * 0.16);
    }
    painter.restore();
}

QLabel* markLabel(Mark mark, int size) {
    QPixmap pixmap(size, size);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    paintMark(painter, mark, {size / 2.0, size / 2.0}, size * 0.75);
    painter.end();
    auto* label = new QLabel;
    label->setPixmap(pixmap);
    label->setAccessibleName(markText(mark));
    return label;
}

QHBoxLayout* markRow(Mark mark, const QString& words, const QString& detail, bool strong) {
    auto* row = new QHBoxLayout;
    row->setSpacing(9);
    row->addWidget(markLabel(mark), 0, Qt::AlignTop);
    auto* column = new QVBoxLayout;
    column->setSpacing(1);
    auto* what = textLabel(words);
    if (strong) what->setStyleSheet("font-weight: 600;");
    column->addWidget(what);
    if (!detail.isEmpty()) column->addWidget(textLabel(detail, "dim"));
    row->addLayout(column, 1);
    return row;
}

} // namespace zl::app
