#pragma once
#include <QWidget>

namespace zl::app {

/// A pane with a point on it that is dragged to where a face shall look: to its left and right, up and down.
/// Arrow keys move it, a double click brings it back to the middle.
class LookPad : public QWidget {
    Q_OBJECT
public:
    explicit LookPad(QWidget* parent = nullptr);

    /// From -1 to 1: x to the viewer's right, y up.
    QPointF point() const { return point_; }
    void setPoint(const QPointF& point);

Q_SIGNALS:
    void moved(const QPointF& point);

protected:
    QSize sizeHint() const override { return {120, 96}; }
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void take(const QPointF& at);
    QPointF point_{0, 0};
};

} // namespace zl::app
