#include "app/pages/item_delegate.h"

#include "app/pages/catalogue_list.h"
#include "app/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace zl::app {

namespace {

constexpr int gap = 10, wordsHigh = 70;

void paintPicture(QPainter& painter, const QRect& room, const QModelIndex& index) {
    QLinearGradient mist(room.topLeft(), room.bottomLeft());
    mist.setColorAt(0, tokens().mistTop), mist.setColorAt(1, tokens().mistBottom);
    painter.fillRect(room, mist);
    const auto picture = index.data(Qt::DecorationRole).value<QPixmap>();
    if (picture.isNull()) return;
    const QSize size = picture.size().scaled(room.size(), Qt::KeepAspectRatioByExpanding);
    QRect whole(QPoint(), size);
    whole.moveCenter(room.center());
    painter.drawPixmap(whole, picture);
}

} // namespace

QSize ItemDelegate::pictureSize() const {
    const QSize least(200, 110); // rows of the list show less; the panel beside shows more
    return (size_ - QSize(gap, gap + wordsHigh)).expandedTo(least);
}

void ItemDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    const Tokens& t = tokens();
    const bool chosen = option.state & QStyle::State_Selected;
    const QRect box = option.rect.adjusted(0, 0, cards_ ? -gap : -1, cards_ ? -gap : -6);
    painter->save();
    painter->setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    QPainterPath round;
    round.addRoundedRect(QRectF(box).adjusted(1, 1, -1, -1), 8, 8);
    painter->fillPath(round, chosen ? t.zestSoft : t.field);
    painter->setClipPath(round);
    const QRect picture = cards_ ? QRect(box.left(), box.top(), box.width(), box.height() - wordsHigh)
                                 : QRect(box.left(), box.top(), 92, box.height());
    paintPicture(*painter, picture, index);
    painter->setClipping(false);
    const bool hovered = option.state & QStyle::State_MouseOver;
    painter->setPen(QPen(chosen ? t.zest : hovered ? t.dim : t.edge, chosen ? 2 : 1));
    painter->drawPath(round);
    if (chosen) { // not by colour alone
        const QRect tick(box.right() - 26, box.top() + 8, 18, 18);
        painter->setPen(Qt::NoPen);
        painter->setBrush(t.zest);
        painter->drawEllipse(tick);
        Theme::instance().icon("check", t.field).paint(painter, tick.adjusted(2, 2, -2, -2));
    }
    if ((option.state & QStyle::State_HasFocus) && index.isValid()) {
        painter->setPen(QPen(t.sea, 2));
        painter->setBrush(Qt::NoBrush);
        painter->drawRoundedRect(QRectF(box).adjusted(3, 3, -3, -3), 6, 6);
    }
    paintWords(*painter,
               cards_
                   ? QRect(box.left() + 10, picture.bottom() + 5, box.width() - 20, wordsHigh - 10)
                   : QRect(picture.right() + 14, box.top(), box.right() - picture.right() - 24, box.height()),
               index);
    painter->restore();
}

void ItemDelegate::paintWords(QPainter& painter, const QRect& room, const QModelIndex& index) const {
    const Tokens& t = tokens();
    const auto write = [&](const QRect& where, const QString& text, const QFont& font, const QColor& ink) {
        painter.setFont(font);
        painter.setPen(ink);
        painter.drawText(where, Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(text, Qt::ElideRight, where.width()));
    };
    const QFont title = Theme::instance().text(13, 700), plain = Theme::instance().text(12),
                tiny = Theme::instance().text(11);
    const QString code = index.data(CatalogueList::Code).toString();
    const int codeWide = std::min(QFontMetrics(tiny).horizontalAdvance(code) + 10, room.width() * 2 / 3);
    QRect first(room.left(), room.top(), room.width(), 20), second = first.translated(0, 19),
                                                            third = first.translated(0, 41);
    if (!cards_) {
        const int column = room.width() / 3;
        first = QRect(room.left(), room.top(), column - 8, room.height());
        second = first.translated(column, 0);
        third = QRect(room.left() + 2 * column, room.center().y() - 9, room.width() - 2 * column, 18);
    }
    write(first, index.data(Qt::DisplayRole).toString(), title, t.ink);
    write(second, index.data(CatalogueList::Line).toString(), plain, t.dim);
    const QRect chip(third.left(), third.top(), codeWide, 17);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.seaSoft);
    painter.drawRoundedRect(chip, 4, 4);
    write(chip.adjusted(5, 0, -2, 0), code, tiny, t.sea);
    write(QRect(chip.right() + 7, chip.top(), third.right() - chip.right() - 7, 17),
          index.data(CatalogueList::Meaning).toString(), tiny, t.dim);
}

} // namespace zl::app
