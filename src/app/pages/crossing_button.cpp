#include "app/pages/crossing_button.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include <QKeyEvent>

namespace zl::app {

namespace {

/// The tightest limit in a word or two: "triangles 19.7×", "fits 61 %".
QString shortVerdict(const platform::FitReport& report) {
    const auto* rule = report.tightest();
    if (!rule) return QObject::tr("no limits");
    const double share = rule->finding.share;
    const QString label = qs(rule->label).toLower();
    if (rule->state == platform::State::Broken) {
        if (rule->severity == platform::Severity::Should) return QObject::tr("fits, %1?").arg(label);
        if (rule->finding.limit.rfind("of ", 0) == 0 && share > 1 && share < 10 && rule->finding.value < 100)
            return QString("%1 %2\u00a0of\u00a0%3") // a number is not left alone on a line
                .arg(label, qs(rule->finding.measured), qs(rule->finding.limit).section(' ', 1, 1));
        if (share > 1) return QString("%1 %2×").arg(label, qs(showNumber(share, share < 100 ? 1 : 0)));
        return label;
    }
    if (rule->state == platform::State::Tight)
        return QString("%1 %2 %").arg(label).arg(std::lround(share * 100));
    return share > 0 && rule->finding.canBeTight ? QObject::tr("fits, %1 %").arg(std::lround(share * 100))
                                                 : QObject::tr("fits");
}

} // namespace

CrossingButton::CrossingButton(QString piece, QString platform, QWidget* parent)
    : QAbstractButton(parent), piece_(std::move(piece)), platform_(std::move(platform)) {
    setObjectName(QString("crossing-%1-%2").arg(piece_, platform_));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setCheckable(true);
}

void CrossingButton::show(const CrossingState& state, bool setUp) {
    using Kind = CrossingState::Kind;
    mark_ = !setUp                        ? Mark::None
            : state.kind == Kind::Ready   ? markOf(state.report)
            : state.kind == Kind::Failed  ? Mark::Broken
            : state.kind == Kind::Stopped ? Mark::Tight
                                          : Mark::Busy;
    words_ = !setUp                        ? tr("not set up")
             : state.kind == Kind::Ready   ? shortVerdict(state.report)
             : state.kind == Kind::Failed  ? tr("cannot be read")
             : state.kind == Kind::Stopped ? tr("stopped")
                                           : tr("checking");
    setAccessibleName(tr("%1 on %2: %3").arg(piece_, platform_, words_));
    setToolTip(setUp ? tr("%1. Enter or double click opens it").arg(words_)
                     : tr("Click to set %1 up here").arg(piece_));
    update();
}

void CrossingButton::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        Q_EMIT opened();
        return;
    }
    QAbstractButton::keyPressEvent(event);
}

void CrossingButton::paintEvent(QPaintEvent*) {
    const Tokens& t = tokens();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(t.edge, 2)); // the warp thread behind it
    painter.drawLine(QPointF(width() / 2.0, 0), QPointF(width() / 2.0, height()));
    const QRectF box = QRectF(rect()).adjusted(7, 6, -7, -6);
    QPen edge(isChecked() ? t.ink : mark_ == Mark::None ? t.edge : markSoft(mark_), isChecked() ? 2 : 1);
    if (mark_ == Mark::None && !isChecked()) edge.setStyle(Qt::DashLine);
    painter.setPen(edge);
    painter.setBrush(mark_ == Mark::None || mark_ == Mark::Busy ? t.linen : markSoft(mark_));
    painter.drawRoundedRect(box, 8, 8);
    const QColor ink = mark_ == Mark::None || mark_ == Mark::Busy ? t.dim : markInk(mark_);
    painter.setFont(Theme::instance().text(12, mark_ == Mark::None ? 400 : 600));
    painter.setPen(ink);
    if (mark_ == Mark::None) {
        painter.drawText(box, Qt::AlignCenter, words_);
    } else {
        // On a narrow column the words take two lines, and the mark makes room for them.
        const QRectF words(box.left() + 3, box.top() + 22, box.width() - 6, box.height() - 23);
        const bool narrow = painter.fontMetrics().horizontalAdvance(words_) > words.width();
        paintMark(painter, mark_, QPointF(box.center().x(), box.top() + (narrow ? 12 : 17)), 14);
        QStringList whole; // a word that is too long by itself ends in "…"; the tooltip has all of it
        for (const QString& word : words_.split(' '))
            whole << painter.fontMetrics().elidedText(word, Qt::ElideRight, int(words.width()));
        painter.drawText(words, Qt::AlignCenter | Qt::TextWordWrap, whole.join(' '));
    }
    if (hasFocus()) {
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(box.adjusted(-3, -3, 3, 3), 10, 10);
    }
}

} // namespace zl::app
