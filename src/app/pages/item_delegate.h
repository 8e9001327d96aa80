#pragma once
#include <QStyledItemDelegate>

namespace zl::app {

/// Draws a catalogue's items as cards in a grid or as rows of a list: picture, title, pack and kind, and the
/// code with what it means.
class ItemDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void setCards(bool cards) { cards_ = cards; }
    /// Of one item, gaps included.
    void setSize(QSize size) { size_ = size; }

    /// Of a card's picture.
    QSize pictureSize() const;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return size_; }

private:
    void paintWords(QPainter& painter, const QRect& room, const QModelIndex& index) const;

    bool cards_ = true;
    QSize size_{200, 184};
};

} // namespace zl::app
