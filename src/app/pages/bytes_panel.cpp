#include "app/pages/bytes_panel.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QHelpEvent>
#include <QLabel>
#include <QPainter>
#include <QToolTip>
#include <QVBoxLayout>

namespace zl::app {

namespace {

using Kind = formats::KartShare::Kind;

QColor inkOf(Kind kind) {
    const Tokens& t = tokens();
    return kind == Kind::Mesh ? t.sea : kind == Kind::Picture ? t.zest : kind == Kind::Clip ? t.clay : t.dim;
}

QString kindWord(Kind kind) {
    return kind == Kind::Mesh      ? QObject::tr("mesh")
           : kind == Kind::Picture ? QObject::tr("picture")
           : kind == Kind::Clip    ? QObject::tr("clip")
                                   : QObject::tr("bones, materials, slots");
}

QString kib(std::size_t bytes) {
    return QObject::tr("%1 KiB").arg(qs(showNumber(std::round(double(bytes) / 102.4) / 10, 1)));
}

} // namespace

void BytesBar::show(std::vector<formats::KartShare> shares, double most) {
    shares_ = std::move(shares), most_ = most;
    update();
}

std::vector<QRectF> BytesBar::places() const {
    double all = 0;
    for (const auto& share : shares_) all += double(share.bytes);
    const double whole = std::max({all, most_, 1.0});
    std::vector<QRectF> out;
    double at = 0;
    for (const auto& share : shares_) {
        const double wide = double(share.bytes) / whole * width();
        out.emplace_back(at, 4, wide, height() - 8);
        at += wide;
    }
    return out;
}

void BytesBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(tokens().edge);
    painter.drawRoundedRect(QRectF(0, 4, width(), height() - 8), 3, 3);
    const auto where = places();
    for (std::size_t k = 0; k < where.size(); ++k) {
        painter.setBrush(inkOf(shares_[k].kind));
        painter.drawRect(where[k].adjusted(0, 0, -std::min(1.5, where[k].width() / 2), 0));
    }
    const double all = where.empty() ? 0 : where.back().right();
    if (most_ <= 0) return;
    double bytes = 0;
    for (const auto& share : shares_) bytes += double(share.bytes);
    // The limit as a line, also where the bar goes past it.
    const double at = bytes > 0 ? std::min(double(width()) - 1, most_ / bytes * all) : width() - 1;
    painter.setPen(QPen(tokens().ink, 2));
    painter.drawLine(QPointF(at, 0), QPointF(at, height()));
}

bool BytesBar::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const auto where = places();
        for (std::size_t k = 0; k < where.size(); ++k)
            if (where[k].contains(help->pos())) {
                QToolTip::showText(
                    help->globalPos(),
                    tr("%1 (%2): %3")
                        .arg(qs(shares_[k].what), kindWord(shares_[k].kind), kib(shares_[k].bytes)),
                    this);
                return true;
            }
        QToolTip::hideText();
    }
    return QWidget::event(event);
}

BytesPanel::BytesPanel(QWidget* parent) : QWidget(parent) {
    setObjectName("bytesPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(5);
    column->addWidget(headingLabel(tr("What takes the bytes"), 2));
    bar_ = new BytesBar;
    bar_->setObjectName("bytesBar");
    bar_->setAccessibleName(tr("What takes the bytes, part by part"));
    whole_ = textLabel({}, "dim");
    whole_->setObjectName("bytesWhole");
    rows_ = textLabel({});
    rows_->setObjectName("bytesRows");
    column->addWidget(bar_);
    column->addWidget(whole_);
    column->addWidget(rows_);
    hide();
}

void BytesPanel::show(const std::vector<formats::KartShare>& shares, double most) {
    std::size_t all = 0;
    for (const auto& share : shares) all += share.bytes;
    bar_->show(shares, most);
    whole_->setText(most > 0 ? tr("%1 of %2").arg(kib(all), kib(std::size_t(most))) : kib(all));
    QString table = "<table cellspacing='2' width='100%'>";
    for (const auto& share : shares) {
        const QString spared =
            share.saving > 0 ? tr("%1: −%2").arg(qs(share.mend), kib(share.saving)) : QString();
        table += QString("<tr><td><span style='color:%1'>■</span> %2</td><td align='right' "
                         "style='white-space: nowrap'>%3</td></tr>")
                     .arg(inkOf(share.kind).name(), qs(share.what).toHtmlEscaped(), kib(share.bytes));
        if (!spared.isEmpty())
            table += QString("<tr><td colspan='2' style='color:%1'>&nbsp;&nbsp;&nbsp;%2</td></tr>")
                         .arg(tokens().dim.name(), spared.toHtmlEscaped());
    }
    rows_->setText(table + "</table>");
    setVisible(true);
}

} // namespace zl::app
