#include "app/widgets/wrapped_button.h"

#include "app/theme.h"

#include <QStyleOptionButton>
#include <QStylePainter>

namespace zl::app {

namespace {

constexpr int usualWidth = 250, leastWidth = 90;

} // namespace

WrappedButton::WrappedButton(const QString& words, QWidget* parent) : QPushButton(words, parent) {
    setCursor(Qt::PointingHandCursor);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

QSize WrappedButton::around() const {
    return QPushButton::sizeHint() - QSize(fontMetrics().horizontalAdvance(text()), fontMetrics().height());
}

QSize WrappedButton::sizeHint() const {
    const int width = std::min(QPushButton::sizeHint().width(), usualWidth);
    return {width, heightForWidth(width)};
}

QSize WrappedButton::minimumSizeHint() const {
    return {std::min(sizeHint().width(), leastWidth), QPushButton::sizeHint().height()};
}

int WrappedButton::heightForWidth(int width) const {
    const QRect room(0, 0, std::max(1, width - around().width()), 10000);
    return fontMetrics().boundingRect(room, Qt::TextWordWrap, text()).height() + around().height();
}

void WrappedButton::paintEvent(QPaintEvent*) {
    QStylePainter painter(this);
    QStyleOptionButton option;
    initStyleOption(&option);
    option.text.clear();
    painter.drawControl(QStyle::CE_PushButton, option);
    painter.setPen(isEnabled() ? tokens().ink : tokens().dim);
    const int beside = around().width() / 2, above = around().height() / 2;
    painter.drawText(rect().adjusted(beside, above, -beside, -above),
                     Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignVCenter, text());
}

} // namespace zl::app
