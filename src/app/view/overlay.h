#pragma once
#include <QPainter>
#include <QWidget>

#include <functional>
#include <vector>

namespace zl::app {

/// Words and marks over an OpenGL view, painted without OpenGL (text is sharper that way, and software GL is
/// spared). Covers its parent and lets the mouse through.
class Overlay : public QWidget {
public:
    Overlay(QWidget* parent, std::function<void(QPainter&)> paint)
        : QWidget(parent), paint_(std::move(paint)) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        setAttribute(Qt::WA_NoSystemBackground);
        setFocusPolicy(Qt::NoFocus);
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        paint_(painter);
    }

private:
    std::function<void(QPainter&)> paint_;
};

/// Writes a line of text, with a soft plate behind it when `plated`, and keeps it inside the painted widget.
/// `at` is the middle of its top edge, or its top left or top right corner, as `align` says. `taken`, when
/// given, holds where plates are already: the label goes below those in its way, or above them
/// where there is no room, and its own is added.
void paintLabel(QPainter& painter, QPointF at, const QString& text, const QColor& ink, bool plated = true,
                Qt::Alignment align = Qt::AlignHCenter, std::vector<QRectF>* taken = nullptr);

} // namespace zl::app
