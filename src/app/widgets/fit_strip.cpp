#include "app/widgets/fit_strip.h"

#include "app/theme.h"

#include <QGridLayout>
#include <QPainter>

namespace zl::app {

namespace {
QString shown(const std::string& s) {
    return QString::fromStdString(s);
}
} // namespace

void Gauge::show(const platform::RuleResult& rule, const std::string& before) {
    rule_ = rule;
    before_ = before == rule.finding.measured ? QString() : shown(before);
    setObjectName("gauge-" + shown(rule.id));
    setText(shown(rule.label));
    const QString measured = before_.isEmpty() ? shown(rule.finding.measured)
                                               : tr("%1, now %2").arg(before_, shown(rule.finding.measured));
    setAccessibleName(
        tr("%1: %2 %3, %4")
            .arg(shown(rule.label), measured, shown(rule.finding.limit), markText(markOf(rule))));
    setToolTip(QString("<b>%1</b><br>%2.<br>%3")
                   .arg(shown(rule.label).toHtmlEscaped(), shown(rule.finding.note).toHtmlEscaped(),
                        shown(rule.message).toHtmlEscaped()));
    update();
}

void Gauge::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    const Mark mark = markOf(rule_);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (underMouse()) painter.fillRect(rect(), t.linen);
    const double left = 12, right = width() - 12;
    const QFont small = Theme::instance().text(11);
    painter.setFont(small);
    const double limitWidth = painter.fontMetrics().horizontalAdvance(shown(rule_.finding.limit));
    const double labelWidth = painter.fontMetrics().horizontalAdvance(text());
    // The limit goes beside the name where both fit, else beside the value.
    const bool limitAbove = labelWidth + limitWidth + 14 < right - left;
    painter.setPen(t.dim);
    painter.drawText(QRectF(left, 5, right - left, 15), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(text(), Qt::ElideRight, int(right - left)));
    if (limitAbove)
        painter.drawText(QRectF(left, 5, right - left, 15), Qt::AlignRight | Qt::AlignVCenter,
                         shown(rule_.finding.limit));
    double x = left;
    if (mark == Mark::Broken || mark == Mark::Tight) {
        paintMark(painter, mark, QPointF(left + 6, 30), 12);
        x += 17;
    }
    painter.setFont(Theme::instance().heading(14));
    painter.setPen(mark == Mark::Broken ? t.clay : mark == Mark::Tight ? t.amber : t.ink);
    const QString value = shown(rule_.finding.measured);
    if (!before_.isEmpty()) { // what it was goes in front where both have room
        const QString was = before_ + QString::fromUtf8(" → ");
        const double now = painter.fontMetrics().horizontalAdvance(value);
        painter.setFont(small);
        const double wide = painter.fontMetrics().horizontalAdvance(was);
        if (x + wide + now <= right) {
            painter.save();
            painter.setPen(t.dim);
            painter.drawText(QRectF(x, 21, wide + 1, 20), Qt::AlignLeft | Qt::AlignVCenter, was);
            painter.restore();
            x += wide;
        }
        painter.setFont(Theme::instance().heading(14));
    }
    painter.drawText(QRectF(x, 20, right - x, 20), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(value, Qt::ElideRight, int(right - x)));
    const double valueWidth = painter.fontMetrics().horizontalAdvance(value);
    painter.setFont(small);
    if (!limitAbove && x + valueWidth + 8 + limitWidth < right) {
        painter.setPen(t.dim);
        painter.drawText(QRectF(left, 20, right - left, 20), Qt::AlignRight | Qt::AlignVCenter,
                         shown(rule_.finding.limit));
    }
    const QRectF bar(left, 44, right - left, 5);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.edge);
    painter.drawRoundedRect(bar, 2.5, 2.5);
    const QColor fill = mark == Mark::Broken ? t.clay : mark == Mark::Tight ? t.zest : t.leaf;
    painter.setBrush(fill);
    const auto& f = rule_.finding;
    if (std::isfinite(f.low) &&
        std::isfinite(f.high)) { // a range: the bar spans a little more than it, the value is a mark in it
        const double from = f.low - 0.25 * (f.high - f.low), to = f.high + 0.25 * (f.high - f.low);
        const auto at = [&](double v) {
            return bar.left() + bar.width() * std::clamp((v - from) / (to - from), 0.0, 1.0);
        };
        QColor soft = t.leaf;
        soft.setAlphaF(0.35f);
        painter.setBrush(soft);
        painter.drawRect(QRectF(at(f.low), bar.top(), at(f.high) - at(f.low), bar.height()));
        painter.setBrush(fill);
        painter.drawRoundedRect(QRectF(at(f.value) - 3, bar.top() - 3, 6, bar.height() + 6), 3, 3);
    } else if (f.share > 0) { // the limit is a line; when broken it moves left so that the excess is seen
        const double limit =
            f.share > 1 ? bar.left() + bar.width() / std::max(1.25, std::min(f.share, 4.0)) : bar.right();
        painter.drawRoundedRect(QRectF(bar.left(), bar.top(),
                                       f.share > 1 ? bar.width() : bar.width() * std::min(1.0, f.share),
                                       bar.height()),
                                2.5, 2.5);
        painter.setPen(QPen(t.ink, 2));
        painter.drawLine(QPointF(limit - 1, bar.top() - 3), QPointF(limit - 1, bar.bottom() + 3));
    } else if (f.holds) {
        QColor soft = t.leaf;
        soft.setAlphaF(0.55f);
        painter.setBrush(soft);
        painter.drawRoundedRect(bar, 2.5, 2.5);
    } else {
        painter.drawRoundedRect(bar, 2.5, 2.5);
    }
    painter.setPen(QPen(t.edge, 1));
    painter.drawLine(QPointF(width() - 0.5, 6), QPointF(width() - 0.5, height() - 6));
    if (hasFocus()) {
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(rect().adjusted(2, 1, -3, -1), 6, 6);
    }
}

namespace {

int heightOf(int rows) {
    return 4 + 56 * rows;
}

} // namespace

FitStrip::FitStrip(QWidget* parent) : QWidget(parent) {
    setObjectName("fitStrip");
    setAttribute(Qt::WA_StyledBackground);
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(6, 2, 6, 2);
    grid_->setSpacing(0);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        for (Gauge* gauge : gauges_) gauge->update();
    });
    setMinimumHeight(heightOf(1));
}

void FitStrip::clear() {
    for (Gauge* gauge : gauges_) gauge->deleteLater();
    gauges_.clear();
}

void FitStrip::show(const platform::FitReport& report, const platform::FitReport* before) {
    const std::size_t count = report.rules.size();
    if (gauges_.size() != count) {
        clear();
        const int rows = count > 7 ? 2 : 1, columns = (int(count) + rows - 1) / rows;
        setMinimumHeight(heightOf(rows)); // whatever else has no room
        for (std::size_t i = 0; i < count; ++i) {
            auto* gauge = new Gauge(this);
            grid_->addWidget(gauge, int(i) / std::max(1, columns), int(i) % std::max(1, columns));
            connect(gauge, &QAbstractButton::clicked, this,
                    [this, gauge] { Q_EMIT chosen(QString::fromStdString(gauge->rule().id)); });
            gauges_.push_back(gauge);
        }
    }
    for (std::size_t i = 0; i < count; ++i) {
        const auto* was = before ? before->rule(report.rules[i].id) : nullptr;
        gauges_[i]->show(report.rules[i], was ? was->finding.measured : std::string());
    }
}

} // namespace zl::app
