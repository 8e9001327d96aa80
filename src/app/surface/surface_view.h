#pragma once
#include "app/surface/channel_strip.h"
#include "app/surface/picture_canvas.h"
#include "app/surface/surface_switch.h"

class QBoxLayout;
class QToolButton;

namespace zl::app {

class FlowRow;

/// Pictures and layouts in place of the model: a picture large with its channels beside it and buttons above.
class SurfaceView : public QWidget {
    Q_OBJECT
public:
    explicit SurfaceView(QWidget* parent = nullptr);

    PictureCanvas& canvas() { return *canvas_; }
    ChannelStrip& strip() { return *strip_; }
    SurfaceSwitch& sights() { return *switch_; }
    void setSight(SurfaceSight sight);
    bool showsEdges() const;
    bool showsBoth() const; ///< source and as delivered, with a line between
    bool showsPictureBelow() const;
    bool showsModelBeside() const;
    void setCanCompare(bool can);

Q_SIGNALS:
    void modesChanged();

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// Channels beside the picture, or below it where there is no room; nothing below the buttons.
    void arrange();
    QToolButton* mode(const char* name, const QString& text, const QString& tip, bool on);

    QBoxLayout* layout_;
    FlowRow* row_;
    SurfaceSwitch* switch_;
    PictureCanvas* canvas_;
    ChannelStrip* strip_;
    QToolButton *edges_, *tiled_, *both_, *below_, *beside_;
};

} // namespace zl::app
