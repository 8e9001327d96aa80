#pragma once
#include <QKeyEvent>
#include <QPainter>

#include <functional>
#include <optional>

namespace zl::app {

class ModelView;

/// Where the pointer is and was pressed, in pixels of the view.
struct Hand {
    QPointF at, pressedAt;
    Qt::KeyboardModifiers keys = Qt::NoModifier;

    /// More than a hand shakes.
    bool hasMoved() const { return (at - pressedAt).manhattanLength() >= 5; }
};

/// Writes words on the view that keep clear of those that are there already.
using Label =
    std::function<void(QPointF at, const QString& text, const QColor& ink, bool plated, Qt::Alignment align)>;

/// What the left button and the keys do on the view, and what is painted over it for that. The view asks its
/// tools in order; the first that takes a press has it until the button is let go.
class ViewTool {
public:
    virtual ~ViewTool() = default;
    virtual bool press(ModelView&, const Hand&) { return false; }
    virtual void move(ModelView&, const Hand&) {} ///< while it holds the press
    virtual void release(ModelView&, const Hand&) {}
    /// The pointer without a button; the cursor to show, when the tool would take a press there.
    virtual std::optional<Qt::CursorShape> hover(ModelView&, QPointF) { return std::nullopt; }
    virtual bool key(ModelView&, const QKeyEvent&, bool /*pressed*/) { return false; }
    virtual void draw(ModelView&, QPainter&, const Label&) {}
    /// Another tool was taken in hand.
    virtual void putDown(ModelView&) {}
};

} // namespace zl::app
