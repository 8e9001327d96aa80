#pragma once
#include "app/surface/picture_levels.h"

#include <QPolygonF>
#include <QWidget>

namespace zl::app {

/// An island of a layout as it is painted.
struct PaintedIsland {
    std::vector<QPolygonF> loops; ///< on the picture, 0–1
    QColor fill;                  ///< not valid: borders alone
    bool lit = false;
};

/// A picture, or two with a line between them, as large as one likes, with what lies on it. The wheel zooms
/// to the pointer, right and middle drag move, F brings all into sight, arrow keys move, + and - zoom.
class PictureCanvas : public QWidget {
    Q_OBJECT
public:
    explicit PictureCanvas(QWidget* parent = nullptr);

    /// Either may be null; with both there is a line between them, left of which is `source`. `aspect` is
    /// width by height where there is no picture.
    void setPictures(std::shared_ptr<const PictureLevels> source,
                     std::shared_ptr<const PictureLevels> delivered, double aspect = 1);
    /// Shows one channel of that picture as grey; -1 for all of it.
    void setChannel(int channel, std::shared_ptr<const PictureLevels> of);
    void setTiled(bool tiled);
    void setIslands(std::vector<PaintedIsland> islands);
    void setEdges(std::vector<QLineF> edges);
    void setMessage(const QString& text);
    /// A place that is marked from elsewhere.
    void setSpot(std::optional<QPointF> uv);
    void frameAll();
    int channel() const { return channel_; }
    QPointF toScreen(QPointF uv) const;
    QPointF toUv(QPointF screen) const;
    /// What stands at the pointer: place, values, colour space.
    QString wordsAt(QPointF screen) const;

Q_SIGNALS:
    void pointed(const QPointF& uv); ///< the pointer is over it
    void left();                     ///< and is not any more
    void clicked(const QPointF& uv);

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    const PictureLevels* pictureAt(QPointF screen) const;
    QRectF square() const; ///< the picture on screen
    void paintPictures(QPainter& painter);
    void paintLines(QPainter& painter);
    void paintWords(QPainter& painter);
    double wipeX() const { return width() * split_; }
    void zoom(double factor, QPointF about);

    std::shared_ptr<const PictureLevels> source_, delivered_, channelOf_;
    std::vector<PaintedIsland> islands_;
    std::vector<QLineF> edges_;
    QString message_;
    std::optional<QPointF> spot_, pointer_;
    double aspect_ = 1, scale_ = 400, split_ = 0.5; ///< pixels of screen that the picture is wide
    QPointF centre_{0.5, 0.5};                      ///< of the widget, on the picture
    int channel_ = -1;
    bool tiled_ = false, wiping_ = false, framed_ = true;
    QPointF pressedAt_, lastAt_;
};

} // namespace zl::app
