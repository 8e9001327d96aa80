#include "app/surface/surface_view.h"

#include "app/theme.h"
#include "app/widgets/flow_row.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QPainter>
#include <QToolButton>

namespace zl::app {

namespace {

constexpr int besideFrom = 620; ///< pixels of width that picture and channels beside each other take
constexpr int oneRow = 56;      ///< height of one row of buttons, which the picture leaves free by itself

} // namespace

SurfaceView::SurfaceView(QWidget* parent) : QWidget(parent) {
    setObjectName("surfaceView");
    layout_ = new QHBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(0);
    canvas_ = new PictureCanvas;
    strip_ = new ChannelStrip;
    strip_->hide();
    layout_->addWidget(canvas_, 1);
    layout_->addWidget(strip_);
    row_ = new FlowRow(this);
    row_->installEventFilter(this);
    switch_ = new SurfaceSwitch(*row_, this);
    edges_ = mode("uvEdges", tr("UV edges"), tr("Edges of the triangles that lie on the picture"), false);
    tiled_ = mode("tiled", tr("3 × 3"), tr("The picture beside itself: how it goes on where it ends"), false);
    both_ = mode("delivered", tr("Source | as delivered"),
                 tr("Compare the picture with what is delivered of it; drag the line"), true);
    below_ = mode("pictureBelow", tr("Picture below"), tr("Lay the picture below the islands"), true);
    beside_ = mode("modelBeside", tr("Model beside"),
                   tr("The model beside it: the same place is marked in both"), false);
    connect(tiled_, &QToolButton::toggled, canvas_, &PictureCanvas::setTiled);
    connect(strip_, &ChannelStrip::channelChosen, this,
            [this](int channel) { canvas_->setChannel(channel, strip_->picture()); });
    setSight(SurfaceSight::Pictures);
}

QToolButton* SurfaceView::mode(const char* name, const QString& text, const QString& tip, bool on) {
    auto* made = new QToolButton;
    made->setObjectName(QString("mode-") + name);
    made->setText(text);
    made->setToolTip(tip);
    made->setCheckable(true);
    made->setChecked(on);
    made->setProperty("mode", true);
    made->setFocusPolicy(Qt::StrongFocus);
    connect(made, &QToolButton::toggled, this, &SurfaceView::modesChanged);
    row_->add(made);
    return made;
}

void SurfaceView::setSight(SurfaceSight sight) {
    switch_->show(sight);
    const bool pictures = sight == SurfaceSight::Pictures;
    edges_->setVisible(pictures);
    tiled_->setVisible(pictures);
    both_->setVisible(pictures && both_->isEnabled());
    below_->setVisible(!pictures);
    if (!pictures) {
        tiled_->setChecked(false);
        strip_->hide();
    }
}

void SurfaceView::setCanCompare(bool can) {
    both_->setEnabled(can);
    both_->setVisible(can && !below_->isVisible());
}

bool SurfaceView::showsEdges() const {
    return edges_->isChecked();
}

bool SurfaceView::showsBoth() const {
    return both_->isChecked() && both_->isEnabled();
}

bool SurfaceView::showsPictureBelow() const {
    return below_->isChecked();
}

bool SurfaceView::showsModelBeside() const {
    return beside_->isChecked();
}

void SurfaceView::arrange() {
    const bool narrow = width() < besideFrom;
    layout_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    layout_->setContentsMargins(0, std::max(0, row_->height() - oneRow), 0, 0);
    strip_->setBelow(narrow);
}

void SurfaceView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

bool SurfaceView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == row_ && event->type() == QEvent::Resize) arrange();
    return QWidget::eventFilter(watched, event);
}

void SurfaceView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    QLinearGradient mist(0, 0, 0, height());
    mist.setColorAt(0, tokens().mistTop);
    mist.setColorAt(1, tokens().mistBottom);
    painter.fillRect(rect(), mist);
}

} // namespace zl::app
