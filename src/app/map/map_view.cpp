#include "app/map/map_view.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/backdrop.h"

#include "core/base/units.h"
#include "core/steps/place_on_map.h"

#include <glm/gtc/matrix_transform.hpp>

#include <QOpenGLExtraFunctions>
#include <QOpenGLFunctions>
#include <QPainter>

namespace zl::app {

namespace {

constexpr float farFrom = 140; ///< metres from where things are boxes

/// Whether a box may be in sight.
bool inSight(const glm::vec3& least, const glm::vec3& most, const glm::mat4& toClip) {
    int out[5] = {0, 0, 0, 0, 0};
    for (int i = 0; i < 8; ++i) {
        const glm::vec4 c = toClip * glm::vec4(i & 1 ? most.x : least.x, i & 2 ? most.y : least.y,
                                               i & 4 ? most.z : least.z, 1);
        out[0] += c.x<-c.w, out[1] += c.x> c.w, out[2] += c.y<-c.w, out[3] += c.y> c.w, out[4] += c.w < 0;
    }
    return std::none_of(out, out + 5, [](int all) { return all == 8; });
}

} // namespace

MapView::MapView(QWidget* parent) : QOpenGLWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("The map"));
    setAccessibleDescription(
        tr("A click puts the piece down. Left drag moves it, its handles turn and lift it. "
           "Right drag turns the view, the wheel zooms, Shift and arrows move the piece."));
    overlay_ = new Overlay(this, [this](QPainter& painter) { paintLabels(painter); });
    camera_.pitch = 0.5;
    camera_.yaw = 0.35;
}

MapView::~MapView() {
    makeCurrent();
    squares_.clear();
    pieceMesh_.reset();
    still_.reset();
    doneCurrent();
}

void MapView::initializeGL() {
    QString problem;
    if (!painter_.start(&problem)) {
        failed_ = true;
        Q_EMIT viewFailed(problem);
    }
}

void MapView::upload() {
    uploaded_ = true;
    squares_.clear();
    if (world_)
        for (const MapWorld::Square& square : world_->squares) {
            Squares made;
            if (!square.near.indices.empty()) made.near = std::make_unique<GlMesh>(square.near);
            if (!square.far.indices.empty()) made.far = std::make_unique<GlMesh>(square.far);
            squares_.push_back(std::move(made));
        }
    const bool light = piece_ && !piece_->light.indices.empty();
    pieceMesh_ = piece_ ? std::make_unique<GlMesh>(light ? piece_->light : piece_->full) : nullptr;
}

void MapView::setWorld(std::shared_ptr<const MapWorld> world) {
    const bool first = !world_ && world;
    if (world_ && world) camera_.target += world_->middle - world->middle; // the eye stays where it is
    world_ = std::move(world);
    uploaded_ = false;
    if (first || !framed_) frameChosen();
    cameraMoved();
}

void MapView::setPiece(std::shared_ptr<const Scene> piece) {
    if (piece == piece_) return;
    const bool first = !piece_ && piece;
    piece_ = std::move(piece);
    uploaded_ = false;
    if (first) frameChosen();
    redraw();
}

void MapView::setPlaces(std::vector<MapPlace> places, int chosen) {
    if (hold_ != Hold::None) return; // what is held is put down first
    places_ = std::move(places);
    chosen_ = std::min(chosen, int(places_.size()) - 1);
    if (chosen_ < 0 && !places_.empty()) chosen_ = 0;
    if (!framed_) frameChosen();
    redraw();
}

void MapView::setMessage(const QString& text) {
    message_ = text;
    redraw();
}

void MapView::lookAgain() {
    cameraMoved();
}

void MapView::cameraMoved() {
    stillFresh_ = false;
    redraw();
}

void MapView::redraw() {
    update();
    overlay_->update();
}

void MapView::resizeGL(int w, int h) {
    camera_.aspect = double(w) / std::max(1, h);
    overlay_->resize(QWidget::size());
    stillFresh_ = false;
}

double MapView::size() const {
    if (!piece_ || piece_->bounds.empty()) return 1;
    const glm::dvec3 size = piece_->bounds.size();
    return std::max({size.x, size.z, 0.4});
}

void MapView::frameChosen() {
    if (!world_) return;
    const glm::dvec3 at = chosen_ >= 0 ? places_[std::size_t(chosen_)].at - world_->middle : glm::dvec3(0);
    const double tall = piece_ && !piece_->bounds.empty() ? piece_->bounds.size().y : 2;
    camera_.target = at + glm::dvec3(0, tall / 2, 0);
    camera_.distance = std::max(16.0, 6 * std::max(tall, size()));
    if (chosen_ < 0) { // where it might stand
        camera_.distance = std::max(camera_.distance, 140.0);
        camera_.pitch = lookDown;
    }
    framed_ = true;
    cameraMoved();
}

void MapView::lookFromAbove() {
    camera_.lookFrom(camera_.yaw, true);
    camera_.distance = std::max(camera_.distance, 120.0); // with some of the district
    camera_.pitch = std::max(camera_.pitch, lowestPitch);
    cameraMoved();
}

glm::dmat4 MapView::poseOf(const MapPlace& place) const {
    glm::dmat4 pose = glm::mat4_cast(place.turn);
    pose[3] = glm::dvec4(place.at - (world_ ? world_->middle : glm::dvec3(0)), 1);
    return pose;
}

QPointF MapView::onScreen(const glm::dvec3& at) const {
    const glm::dvec3 p = camera_.project(at, width(), height());
    return {p.x, p.y};
}

std::optional<MapView::Grips> MapView::grips() const {
    if (chosen_ < 0 || !world_) return std::nullopt;
    const MapPlace& place = places_[std::size_t(chosen_)];
    const glm::dvec3 foot = place.at - world_->middle;
    const double tall = piece_ && !piece_->bounds.empty() ? piece_->bounds.max.y : 1;
    const glm::dvec3 front = place.turn * glm::dvec3(0, 0, 1);
    glm::dvec3 level(front.x, 0, front.z);
    level = glm::length(level) > 1e-6 ? glm::normalize(level) : glm::dvec3(0, 0, 1);
    return Grips{foot, foot + level * (size() * 0.5 + 1), foot + glm::dvec3(0, tall + 0.6, 0)};
}

void MapView::drawDistricts(const glm::mat4& toClip) {
    const double height =
        chosen_ >= 0 ? places_[std::size_t(chosen_)].at.y - world_->middle.y : world_->onMap(glm::dvec3(0)).y;
    for (const auto& district : world_->city.districts) {
        std::vector<glm::vec3> lines;
        const auto corner = [&](double x, double y) {
            glm::dvec3 p = world_->onMap({x, y, 0});
            p.y = height + 0.03;
            return glm::vec3(p);
        };
        const glm::vec3 around[] = {
            corner(district.least.x, district.least.y), corner(district.most.x, district.least.y),
            corner(district.most.x, district.most.y), corner(district.least.x, district.most.y)};
        for (int k = 0; k < 4; ++k) {
            const glm::vec3 a = around[k], b = around[(k + 1) % 4];
            const int dashes = std::clamp(int(glm::distance(a, b) / 4), 1, 400);
            for (int d = 0; d < dashes; ++d)
                lines.insert(lines.end(), {glm::mix(a, b, (float(d) + 0.2f) / float(dashes)),
                                           glm::mix(a, b, (float(d) + 0.8f) / float(dashes))});
        }
        const glm::dvec3 at = chosen_ >= 0 ? world_->inCity(places_[std::size_t(chosen_)].at - world_->middle)
                                           : glm::dvec3(1e30);
        painter_.lines(lines, toClip,
                       glColour(district.has({at.x, at.y}) ? tokens().zest : tokens().dim, 0.9f), 2);
    }
}

/// What stands still: the ground and what others have.
void MapView::drawStill(const glm::mat4& toClip) {
    const QSize pixels = QWidget::size() * devicePixelRatio();
    if (!still_ || still_->size() != pixels)
        still_ = std::make_unique<QOpenGLFramebufferObject>(pixels,
                                                            QOpenGLFramebufferObject::CombinedDepthStencil);
    still_->bind();
    auto* gl = context()->functions();
    gl->glViewport(0, 0, pixels.width(), pixels.height());
    gl->glEnable(GL_DEPTH_TEST);
    gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    const Tokens& t = tokens();
    painter_.background(t.mistTop, t.mistBottom);
    if (world_) {
        const glm::dvec3 ground = world_->onMap(glm::dvec3(0));
        std::vector<glm::vec3> grid = floorGrid(20, 30);
        for (glm::vec3& p : grid) p.y = float(ground.y);
        painter_.lines(grid, toClip, glColour(t.sea, 0.22f));
        GlPainter::Look look;
        look.toClip = toClip;
        look.eye = glm::vec3(camera_.eye());
        look.gloss = 0.02f;
        if (t.paper.lightnessF() < 0.5) look.tint = glColour(t.mistBottom, 0.45f);
        for (std::size_t i = 0; others && i < squares_.size(); ++i) {
            const MapWorld::Square& square = world_->squares[i];
            if (!inSight(square.least, square.most, toClip)) continue;
            const glm::vec3 nearest = glm::clamp(look.eye, square.least, square.most);
            const bool isFar = glm::distance(nearest, look.eye) > farFrom;
            if (GlMesh* mesh = (isFar ? squares_[i].far : squares_[i].near).get()) painter_.draw(*mesh, look);
        }
    }
    still_->release();
    stillFresh_ = true;
}

void MapView::paintGL() {
    QElapsedTimer watch;
    watch.start();
    if (failed_) return;
    if (!uploaded_) upload(), stillFresh_ = false;
    const glm::mat4 toClip(camera_.projection() * camera_.view());
    if (!stillFresh_) drawStill(toClip);
    const QSize pixels = QWidget::size() * devicePixelRatio();
    auto* gl = QOpenGLContext::currentContext()->extraFunctions();
    gl->glBindFramebuffer(GL_READ_FRAMEBUFFER, still_->handle());
    gl->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, defaultFramebufferObject());
    gl->glBlitFramebuffer(0, 0, pixels.width(), pixels.height(), 0, 0, pixels.width(), pixels.height(),
                          GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT, GL_NEAREST);
    gl->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
    gl->glViewport(0, 0, pixels.width(), pixels.height());
    gl->glEnable(GL_DEPTH_TEST);
    if (world_) {
        if (districts) drawDistricts(toClip);
        GlPainter::Look look;
        look.toClip = toClip;
        look.eye = glm::vec3(camera_.eye());
        for (const MapPlace& place : places_) {
            if (!pieceMesh_) break;
            look.placing = glm::mat4(poseOf(place));
            painter_.draw(*pieceMesh_, look);
        }
        if (const auto grip = grips()) {
            const Tokens& t = tokens();
            if (figure && sheet_) {
                const glm::dvec3 beside = grip->foot + camera_.right() * (size() * 0.5 + 1.2);
                painter_.triangles(figureOutline(beside, sheet_->figureMetres(), camera_.yaw), toClip,
                                   glColour(t.sea, 0.5f));
            }
            gl->glDisable(GL_DEPTH_TEST); // handles are never hidden
            painter_.lines(
                {glm::vec3(grip->foot), glm::vec3(grip->turn), glm::vec3(grip->foot), glm::vec3(grip->lift)},
                toClip, glColour(t.zest), 3);
        }
    }
    gl->glDisable(GL_DEPTH_TEST);
    frameMillis_ = double(watch.nsecsElapsed()) / 1e6;
}

void MapView::paintLabels(QPainter& painter) {
    const Tokens& t = tokens();
    if (!message_.isEmpty()) {
        painter.setFont(Theme::instance().text(14));
        painter.setPen(t.dim);
        painter.drawText(rect().adjusted(60, 60, -60, -60), Qt::AlignCenter | Qt::TextWordWrap, message_);
    }
    if (!world_) return;
    std::vector<QRectF> taken;
    const auto grip = grips();
    if (grip) {
        for (const glm::dvec3& at : {grip->turn, grip->lift}) {
            painter.setPen(QPen(t.zest, 3));
            painter.setBrush(t.paper);
            painter.drawEllipse(onScreen(at), 6.5, 6.5);
            taken.push_back(QRectF(onScreen(at) - QPointF(8, 8), QSizeF(16, 16)));
        }
        const MapPlace& place = places_[std::size_t(chosen_)];
        const glm::dvec3 city = world_->inCity(grip->foot);
        const glm::dvec3 angles = steps::anglesOnMap(place.turn);
        paintLabel(painter, onScreen(grip->turn) + QPointF(0, 12),
                   tr("%1, %2, %3 m · turned %4°")
                       .arg(qs(showNumber(city.x, 2)), qs(showNumber(city.y, 2)), qs(showNumber(city.z, 2)),
                            qs(showNumber(glm::degrees(angles.x), 1))),
                   t.ink, true, Qt::AlignHCenter, &taken);
        const auto below = world_->below(grip->foot);
        const double gap = grip->foot.y - below.height;
        const QString name = below.name.empty() ? tr("the bare ground") : qs(below.name);
        const bool floats = std::abs(gap) > 0.03;
        paintLabel(painter, onScreen(grip->foot) + QPointF(0, 30),
                   floats
                       ? tr("%1 m %2 %3")
                             .arg(qs(showMeasure(std::abs(gap))), gap > 0 ? tr("above") : tr("within"), name)
                       : tr("stands on %1").arg(name),
                   floats ? t.clay : t.ink, true, Qt::AlignHCenter, &taken);
        if (districts) {
            const auto* district = world_->city.districtAt({city.x, city.y});
            paintLabel(painter, onScreen(grip->lift) + QPointF(0, -42),
                       district ? tr("district: %1").arg(qs(district->name))
                                : tr("in no district: it is never loaded there"),
                       district ? t.ink : t.clay, true, Qt::AlignHCenter, &taken);
        }
    } else if (message_.isEmpty()) {
        paintLabel(painter, QPointF(width() / 2.0, height() - 70.0), tr("Click where it is to stand."), t.ink,
                   true, Qt::AlignHCenter, &taken);
    }
    for (const auto& district : world_->city.districts) {
        if (!districts) break;
        const glm::dvec2 m = (district.least + district.most) / 2.0;
        const glm::dvec3 at = world_->onMap({m.x, m.y, 0});
        const QPointF on = onScreen(at);
        if (grip && glm::distance(at, grip->foot) < 60) continue; // said beside the piece
        if (rect().adjusted(40, 60, -40, -60).contains(on.toPoint()))
            paintLabel(painter, on, qs(district.name), t.dim, true, Qt::AlignHCenter, &taken);
    }
}

} // namespace zl::app
