#include "app/surface/picture_canvas.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace zl::app {

namespace {

constexpr double rim = 26, above = 58;      ///< left free around it
constexpr double most = 200000, least = 24; ///< pixels that it may be wide on screen

QRgb shownPixel(const std::uint8_t* p, int channel, bool through, int x, int y) {
    if (channel >= 0) return qRgb(p[channel], p[channel], p[channel]);
    if (!through || p[3] == 255) return qRgb(p[0], p[1], p[2]);
    const int ground = ((x >> 3) + (y >> 3)) % 2 ? 235 : 196; // checks
    const auto over = [&](int k) { return (p[k] * p[3] + ground * (255 - p[3]) + 127) / 255; };
    return qRgb(over(0), over(1), over(2));
}

} // namespace

PictureCanvas::PictureCanvas(QWidget* parent) : QWidget(parent) {
    setObjectName("pictureCanvas");
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Picture"));
    connect(&Theme::instance(), &Theme::changed, this, qOverload<>(&QWidget::update));
}

void PictureCanvas::setPictures(std::shared_ptr<const PictureLevels> source,
                                std::shared_ptr<const PictureLevels> delivered, double aspect) {
    const double was = aspect_;
    source_ = std::move(source), delivered_ = std::move(delivered);
    const PictureLevels* one = source_ ? source_.get() : delivered_.get();
    aspect_ = one ? double(one->size().width()) / one->size().height() : aspect;
    if (framed_ || std::abs(was - aspect_) > 1e-9) frameAll();
    update();
}

void PictureCanvas::setChannel(int channel, std::shared_ptr<const PictureLevels> of) {
    channel_ = channel;
    channelOf_ = std::move(of);
    update();
}

void PictureCanvas::setTiled(bool tiled) {
    tiled_ = tiled;
    frameAll();
}

void PictureCanvas::setIslands(std::vector<PaintedIsland> islands) {
    islands_ = std::move(islands);
    update();
}

void PictureCanvas::setEdges(std::vector<QLineF> edges) {
    edges_ = std::move(edges);
    update();
}

void PictureCanvas::setMessage(const QString& text) {
    message_ = text;
    update();
}

void PictureCanvas::setSpot(std::optional<QPointF> uv) {
    spot_ = uv;
    update();
}

void PictureCanvas::frameAll() {
    const double times = tiled_ ? 3 : 1, wide = std::max(60.0, width() - 2 * rim),
                 tall = std::max(60.0, height() - above - rim);
    scale_ = std::max(least, std::min(wide / times, tall / times * aspect_));
    centre_ = {0.5, 0.5 - (above - rim) / 2 * aspect_ / scale_};
    framed_ = true;
    update();
}

QPointF PictureCanvas::toScreen(QPointF uv) const {
    return {width() / 2.0 + (uv.x() - centre_.x()) * scale_,
            height() / 2.0 + (uv.y() - centre_.y()) * scale_ / aspect_};
}

QPointF PictureCanvas::toUv(QPointF screen) const {
    return {centre_.x() + (screen.x() - width() / 2.0) / scale_,
            centre_.y() + (screen.y() - height() / 2.0) * aspect_ / scale_};
}

QRectF PictureCanvas::square() const {
    return tiled_ ? QRectF(toScreen({-1, -1}), toScreen({2, 2})) : QRectF(toScreen({0, 0}), toScreen({1, 1}));
}

const PictureLevels* PictureCanvas::pictureAt(QPointF screen) const {
    if (source_ && delivered_) return screen.x() < wipeX() ? source_.get() : delivered_.get();
    return source_ ? source_.get() : delivered_.get();
}

void PictureCanvas::paintPictures(QPainter& painter) {
    const QRect shown = square().toAlignedRect() & rect();
    if (shown.isEmpty()) return;
    if (!source_ && !delivered_) {
        painter.fillRect(shown, tokens().field);
        return;
    }
    QImage image(shown.size(), QImage::Format_RGB32);
    std::vector<double> across(std::size_t(shown.width()));
    for (int x = 0; x < shown.width(); ++x) {
        const double u = toUv({shown.x() + x + 0.5, 0}).x();
        across[std::size_t(x)] = u - std::floor(u);
    }
    for (int half = 0; half < 2; ++half) {
        const PictureLevels* picture = pictureAt({half == 0 ? -1.0 : 1e9, 0});
        const int channel = picture == channelOf_.get() ? channel_ : -1;
        const int split =
            source_ && delivered_ ? std::clamp(int(wipeX()) - shown.x(), 0, shown.width()) : shown.width();
        const int from = half == 0 ? 0 : split, to = half == 0 ? split : shown.width();
        if (from >= to) continue;
        std::size_t level = 0; // whose pixels are about as large as the screen's
        while (level + 1 < picture->levels.size() && picture->levels[level]->width > 1.4 * scale_) ++level;
        const Pixels& pixels = *picture->levels[level];
        std::vector<std::size_t> columns(std::size_t(to - from));
        for (int x = from; x < to; ++x)
            columns[std::size_t(x - from)] = 4 * std::min(std::size_t(across[std::size_t(x)] * pixels.width),
                                                          std::size_t(pixels.width - 1));
        for (int y = 0; y < shown.height(); ++y) {
            const double v = toUv({0, shown.y() + y + 0.5}).y();
            const auto row =
                std::min(std::size_t((v - std::floor(v)) * pixels.height), std::size_t(pixels.height - 1));
            const std::uint8_t* line = &pixels.rgba[4 * row * std::size_t(pixels.width)];
            auto* out = reinterpret_cast<QRgb*>(image.scanLine(y));
            for (int x = from; x < to; ++x)
                out[x] =
                    shownPixel(line + columns[std::size_t(x - from)], channel, picture->seesThrough, x, y);
        }
    }
    painter.drawImage(shown.topLeft(), image);
}

void PictureCanvas::paintLines(QPainter& painter) {
    const Tokens& t = tokens();
    painter.setRenderHint(QPainter::Antialiasing, islands_.size() < 2000);
    QTransform onScreen;
    const QPointF corner = toScreen({0, 0});
    onScreen.translate(corner.x(), corner.y());
    onScreen.scale(scale_, scale_ / aspect_);
    painter.setClipRect(square());
    // Lines on a picture turn over what they lie on, so that they are seen on any.
    const bool onPicture = source_ || delivered_;
    for (const PaintedIsland& island : islands_) {
        QPainterPath path;
        path.setFillRule(Qt::OddEvenFill);
        for (const QPolygonF& loop : island.loops) path.addPolygon(onScreen.map(loop)), path.closeSubpath();
        if (island.fill.isValid()) painter.fillPath(path, island.fill);
        if (island.lit) painter.fillPath(path, QBrush(t.clay, Qt::BDiagPattern));
        if (!island.fill.isValid() && onPicture)
            painter.setCompositionMode(QPainter::CompositionMode_Difference);
        QPen pen(island.lit              ? t.clay
                 : island.fill.isValid() ? t.strong
                                         : QColor(255, 255, 255, 210),
                 island.lit ? 2 : 1.2);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(path);
        painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
    }
    painter.setRenderHint(QPainter::Antialiasing, false);
    if (!edges_.empty()) {
        std::vector<QLineF> lines;
        lines.reserve(edges_.size());
        const QRectF window(rect());
        for (const QLineF& edge : edges_) {
            const QLineF line = onScreen.map(edge);
            if (QRectF(line.p1(), line.p2()).normalized().adjusted(-1, -1, 1, 1).intersects(window))
                lines.push_back(line);
        }
        painter.setCompositionMode(QPainter::CompositionMode_Difference);
        painter.setPen(QPen(QColor(110, 110, 110), 1));
        painter.drawLines(lines.data(), int(lines.size()));
        painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
    }
    painter.setClipping(false);
    painter.setPen(QPen(t.edge, 1));
    if (tiled_) { // where it ends, outside its middle one only by a tick
        const QRectF middle(toScreen({0, 0}), toScreen({1, 1}));
        painter.setPen(QPen(t.ink, 1, Qt::DotLine));
        painter.drawRect(middle);
    }
    if (spot_) {
        painter.setRenderHint(QPainter::Antialiasing);
        const QPointF at =
            toScreen({spot_->x() - std::floor(spot_->x()), spot_->y() - std::floor(spot_->y())});
        painter.setPen(QPen(Qt::white, 4));
        painter.drawEllipse(at, 8, 8);
        painter.setPen(QPen(t.zest, 2));
        painter.drawEllipse(at, 8, 8);
    }
}

QString PictureCanvas::wordsAt(QPointF screen) const {
    const PictureLevels* picture = pictureAt(screen);
    QPointF uv = toUv(screen);
    if (!picture || !square().contains(screen)) return {};
    uv -= QPointF(std::floor(uv.x()), std::floor(uv.y()));
    const Pixels& pixels = *picture->levels[0];
    const int x = std::min(int(uv.x() * pixels.width), pixels.width - 1),
              y = std::min(int(uv.y() * pixels.height), pixels.height - 1);
    const std::uint8_t* p = &pixels.rgba[4 * (std::size_t(y) * std::size_t(pixels.width) + std::size_t(x))];
    const auto share = [](std::uint8_t byte) { return QString::number(byte / 255.0, 'f', 2); };
    QString out = tr("x %1, y %2 · R %3 G %4 B %5").arg(x).arg(y).arg(share(p[0]), share(p[1]), share(p[2]));
    if (picture->hasAlpha) out += tr(" A %1").arg(share(p[3]));
    return out + (picture->isColour ? tr(" · sRGB") : tr(" · plain numbers"));
}

void PictureCanvas::paintWords(QPainter& painter) {
    const Tokens& t = tokens();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(Theme::instance().text(12, 500));
    const QFontMetrics metrics(painter.font());
    const auto plate = [&](QPointF at, const QString& words, Qt::Alignment side, int room) {
        const QString text = metrics.elidedText(words, Qt::ElideMiddle, std::max(20, room - 16));
        QRectF box(0, 0, metrics.horizontalAdvance(text) + 16, metrics.height() + 8);
        if (side & Qt::AlignRight) at.rx() -= box.width();
        box.moveTopLeft(at);
        box.moveLeft(std::clamp(box.left(), 4.0, std::max(4.0, width() - box.width() - 4)));
        box.moveTop(std::clamp(box.top(), 4.0, std::max(4.0, height() - box.height() - 4)));
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.paper);
        painter.drawRoundedRect(box, 6, 6);
        painter.setPen(t.ink);
        painter.drawText(box, Qt::AlignCenter, text);
    };
    const QRectF seen = square() & QRectF(rect());
    const double top = std::max(seen.top() + 8, above); // captions stay below the buttons
    if (source_ && delivered_) {
        painter.setPen(QPen(t.ink, 2));
        painter.drawLine(QPointF(wipeX(), seen.top()), QPointF(wipeX(), seen.bottom()));
        painter.setBrush(t.paper);
        painter.drawEllipse(QPointF(wipeX(), seen.center().y()), 8, 8);
        plate({seen.left() + 8, top}, source_->caption, Qt::AlignLeft, int(wipeX() - seen.left()) - 16);
        plate({std::max(wipeX() + 8, seen.left() + 8), top}, delivered_->caption, Qt::AlignLeft,
              int(seen.right() - wipeX()) - 16);
    } else if (const PictureLevels* picture = pictureAt({0, 0})) {
        plate({seen.left() + 8, top}, picture->caption, Qt::AlignLeft, int(seen.width()) - 16);
    }
    if (pointer_ && !wiping_)
        if (const QString words = wordsAt(*pointer_); !words.isEmpty())
            plate(*pointer_ + QPointF(14, 16), words, Qt::AlignLeft, width());
    if (!message_.isEmpty()) {
        painter.setPen(t.ink);
        painter.setFont(Theme::instance().text(14));
        painter.drawText(QRectF(rect()).adjusted(40, 60, -40, -20), int(Qt::AlignCenter) | Qt::TextWordWrap,
                         message_);
    }
}

void PictureCanvas::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (message_.isEmpty()) {
        paintPictures(painter);
        paintLines(painter);
    }
    paintWords(painter);
    if (hasFocus()) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(tokens().sea, 2));
        painter.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void PictureCanvas::resizeEvent(QResizeEvent*) {
    if (framed_) frameAll();
}

void PictureCanvas::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = lastAt_ = event->position();
    wiping_ = event->button() == Qt::LeftButton && source_ && delivered_ &&
              std::abs(event->position().x() - wipeX()) < 10;
}

void PictureCanvas::mouseMoveEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (wiping_)
        split_ = std::clamp(at.x() / std::max(1, width()), 0.0, 1.0);
    else if (event->buttons() & (Qt::RightButton | Qt::MiddleButton)) {
        centre_ -= QPointF((at.x() - lastAt_.x()) / scale_, (at.y() - lastAt_.y()) * aspect_ / scale_);
        framed_ = false;
    }
    setCursor(source_ && delivered_ && std::abs(at.x() - wipeX()) < 10 ? Qt::SplitHCursor : Qt::ArrowCursor);
    lastAt_ = at;
    pointer_ = at;
    if (square().contains(at)) Q_EMIT pointed(toUv(at));
    update();
}

void PictureCanvas::mouseReleaseEvent(QMouseEvent* event) {
    const bool click = event->button() == Qt::LeftButton && !wiping_ &&
                       (event->position() - pressedAt_).manhattanLength() < 5;
    wiping_ = false;
    if (click && square().contains(event->position())) Q_EMIT clicked(toUv(event->position()));
}

void PictureCanvas::zoom(double factor, QPointF about) {
    const QPointF kept = toUv(about);
    scale_ = std::clamp(scale_ * factor, least, most);
    const QPointF now = toUv(about);
    centre_ += kept - now;
    framed_ = false;
    update();
}

void PictureCanvas::wheelEvent(QWheelEvent* event) {
    zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
    event->accept();
}

void PictureCanvas::leaveEvent(QEvent*) {
    pointer_.reset();
    Q_EMIT left();
    update();
}

void PictureCanvas::keyPressEvent(QKeyEvent* event) {
    const double step = 60;
    const auto move = [&](double x, double y) {
        centre_ += QPointF(x * step / scale_, y * step * aspect_ / scale_);
        framed_ = false;
        update();
    };
    switch (event->key()) {
    case Qt::Key_F:
        return frameAll();
    case Qt::Key_Left:
        return move(-1, 0);
    case Qt::Key_Right:
        return move(1, 0);
    case Qt::Key_Up:
        return move(0, -1);
    case Qt::Key_Down:
        return move(0, 1);
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoom(1.3, QPointF(rect().center()));
    case Qt::Key_Minus:
        return zoom(1 / 1.3, QPointF(rect().center()));
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace zl::app
