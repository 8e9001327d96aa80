#include "app/view/tryout_view.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/backdrop.h"

#include "core/base/units.h"

#include <QFileInfo>
#include <QOpenGLFunctions>

namespace zl::app {

using namespace standins::world;

namespace {

std::vector<GlCorner> cornersOf(const Shape& shape) {
    std::vector<GlCorner> out;
    out.reserve(shape.positions.size());
    for (std::size_t i = 0; i < shape.positions.size(); ++i)
        out.push_back({shape.positions[i], i < shape.normals.size() ? shape.normals[i] : glm::vec3(0, 1, 0),
                       i < shape.uvs.size() ? shape.uvs[i] : glm::vec2(0)});
    return out;
}

GlGeometry geometryOf(const Item& item) {
    GlGeometry out;
    const Shape& shape = item.shape;
    out.corners = cornersOf(shape);
    out.indices = shape.indices;
    GlGeometry::Range range{0, out.indices.size()};
    range.lit = item.picture && item.glow > 0;
    if (item.picture) {
        auto pixels = std::make_shared<Pixels>();
        pixels->width = item.picture->width, pixels->height = item.picture->height;
        pixels->rgba = item.picture->rgba;
        range.picture = pixels;
        range.colour = {1, 1, 1, 1};
    } else if (item.colour != glm::vec3(0.8f)) {
        range.colour = glm::vec4(item.colour, 1);
    }
    out.ranges = {range};
    return out;
}

} // namespace

TryoutView::TryoutView(QWidget* parent) : QOpenGLWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true); // some look at the pointer
    setAcceptDrops(true);
    setAccessibleName(tr("The stand-in"));
    setAccessibleDescription(
        tr("Left drag picks a thing up, letting go drops it. Right drag turns the view, the wheel zooms."));
    overlay_ = new Overlay(this, [this](QPainter& painter) { paintLabels(painter); });
    camera_.yaw = 0.12;
    camera_.pitch = 0.3;
    connect(&timer_, &QTimer::timeout, this, &TryoutView::step);
}

TryoutView::~TryoutView() {
    makeCurrent();
    meshes_.clear();
    shaded_.reset();
    doneCurrent();
}

void TryoutView::initializeGL() {
    QString problem;
    if (!painter_.start(&problem)) {
        failed_ = true;
        Q_EMIT viewFailed(problem);
        return;
    }
    upload();
}

void TryoutView::upload() {
    if (!isValid() || failed_) return;
    makeCurrent();
    meshes_.clear();
    shaded_.reset();
    if (!arena_) return;
    uploadedRevision_ = arena_->itemsRevision();
    if (const Shading* shading = arena_->shading()) {
        shaded_ = std::make_unique<ShadedPainter>();
        QString problem;
        if (shaded_->start(*shading, &problem)) return;
        shaded_.reset(); // then as other stand-ins draw
        Q_EMIT viewFailed(problem);
    }
    for (const Item& item : arena_->items()) meshes_.push_back(std::make_unique<GlMesh>(geometryOf(item)));
}

void TryoutView::setArena(std::shared_ptr<Arena> arena) {
    arena_ = std::move(arena);
    upload();
    if (arena_) {
        camera_.yaw = arena_->seenFrom();
        frameAll();
        wake();
    } else {
        timer_.stop();
        redraw();
    }
}

void TryoutView::setMessage(const QString& text) {
    message_ = text;
    redraw();
}

void TryoutView::wake() {
    quietFrames_ = 0;
    clock_.start();
    timer_.start(16);
}

void TryoutView::act(const QString& action) {
    if (!arena_) return;
    arena_->act(action.toStdString());
    makeRoom();
    wake();
}

void TryoutView::makeRoom() {
    const auto [low, high] = arena_->frame();
    const glm::vec3 air = (framed_.second - framed_.first) * 0.1f;
    // What the action will need beyond what the camera was set up for is shown too.
    if (glm::any(glm::lessThan(low, framed_.first - air)) ||
        glm::any(glm::greaterThan(high, framed_.second + air)))
        frameAll();
}

void TryoutView::slide(const QString& slider, double value) {
    if (!arena_) return;
    arena_->slide(slider.toStdString(), value);
    wake();
}

void TryoutView::choose(const QString& choice, int option) {
    if (!arena_) return;
    const bool rode = arena_->ride().has_value();
    const double seenFrom = arena_->seenFrom();
    arena_->choose(choice.toStdString(), option);
    if ((rode && !arena_->ride()) || arena_->seenFrom() != seenFrom)
        camera_.yaw = arena_->seenFrom(), camera_.pitch = Camera{}.pitch, frameAll();
    else
        makeRoom();
    wake();
}

void TryoutView::dress(const QString& file, int item) {
    if (!arena_) return;
    std::string why;
    if (!arena_->takePicture(file.toStdString(), item, why)) {
        Q_EMIT refusedPicture(tr("%1 is refused. %2").arg(QFileInfo(file).fileName(), qs(why)));
        return;
    }
    Q_EMIT dressed();
    wake();
}

void TryoutView::frameAll() {
    if (!arena_) return;
    framed_ = arena_->frame();
    camera_.frame(framed_.first, framed_.second);
    redraw();
}

void TryoutView::resizeGL(int w, int h) {
    camera_.aspect = double(w) / std::max(1, h);
    overlay_->resize(size());
}

void TryoutView::step() {
    if (!arena_) return timer_.stop();
    const glm::dvec3 stood(arena_->figureFoot());
    const bool busy = arena_->advance(std::min(0.1, double(clock_.restart()) / 1000));
    if (arena_->isWalked()) camera_.target += glm::dvec3(arena_->figureFoot()) - stood;
    if (const auto ride = arena_->ride()) camera_.lookAlong(ride->eye, ride->to);
    Q_EMIT stepped();
    redraw();
    quietFrames_ = arena_->physics().atRest() && !arena_->physics().holding() && !busy ? quietFrames_ + 1 : 0;
    if (quietFrames_ > 30) timer_.stop(); // nothing moves: leave the processor alone
}

void TryoutView::drawGround(const glm::mat4& toClip) {
    const Tokens& t = tokens();
    if (!arena_ || arena_->table().x <= 0) {
        if (arena_ && !arena_->hasGround()) {
            const double step = gridStep(arena_->figureHeight() * 2, 1);
            painter_.lines(floorGrid(step, 16), toClip, glColour(t.sea, 0.22f));
        }
        return;
    }
    const auto quad = [&](glm::vec3 a, glm::vec3 b, glm::vec3 c, glm::vec3 d, const QColor& colour) {
        painter_.triangles({a, b, c, a, c, d}, toClip, glColour(colour));
    };
    const float w = arena_->table().x, d = arena_->table().y;
    quad({-w, 0, d}, {w, 0, d}, {w, 0, -d}, {-w, 0, -d}, QColor("#8B6B4B"));
    quad({-w, -0.35f, d}, {w, -0.35f, d}, {w, 0, d}, {-w, 0, d}, QColor("#6E5238"));
    std::vector<glm::vec3> boards;
    for (int i = 1; i < 8; ++i) {
        const float z = -d + float(i) * 2 * d / 8;
        boards.insert(boards.end(), {glm::vec3(-w, 0.001f, z), glm::vec3(w, 0.001f, z)});
    }
    painter_.lines(boards, toClip, {0.30f, 0.21f, 0.13f, 0.35f});
}

void TryoutView::drawShadows(const std::vector<Drawn>& drawn, const glm::mat4& toClip) {
    const auto figure = float(arena_->figureHeight());
    for (const Drawn& one : drawn) { // a soft disc under each stands for its shadow
        const Shape& shape = arena_->items()[std::size_t(one.item)].shape;
        const glm::vec3 size = shape.size(),
                        middle(one.pose * glm::vec4((shape.low() + shape.high()) * 0.5f, 1));
        const float above = std::max(0.0f, middle.y - size.y / 2) / figure;
        const float x = 0.42f * size.x + 0.05f * above, z = 0.42f * size.z + 0.05f * above;
        std::vector<glm::vec3> disc;
        const auto rim = [&](int k) {
            const float a = float(k) * 0.2618f;
            return glm::vec3(middle.x + x * std::cos(a), 0.0016f * figure, middle.z + z * std::sin(a));
        };
        for (int k = 0; k < 24; ++k)
            disc.insert(disc.end(), {glm::vec3(middle.x, 0.0016f * figure, middle.z), rim(k), rim(k + 1)});
        painter_.triangles(disc, toClip, {0.1f, 0.07f, 0.04f, 0.28f / (1 + 2 * above)});
    }
}

void TryoutView::drawMarks(const glm::mat4& toClip) {
    // Ribbons that face the viewer: lines of more than a pixel are not to be had everywhere.
    const float wide = 0.012f * float(arena_->figureHeight());
    const glm::vec3 eye(camera_.eye());
    std::vector<glm::vec3> out;
    for (const Mark& mark : arena_->marks()) {
        const glm::vec3 way = mark.to - mark.from;
        if (glm::length(way) < 1e-6f) continue;
        const glm::vec3 side = glm::normalize(glm::cross(way, eye - mark.from)) * wide,
                        ahead = glm::normalize(way);
        const glm::vec3 end = mark.arrow ? mark.to - ahead * (wide * 7) : mark.to;
        out.insert(out.end(), {mark.from - side, mark.from + side, end + side, mark.from - side, end + side,
                               end - side});
        if (mark.arrow) out.insert(out.end(), {end - side * 3.5f, end + side * 3.5f, mark.to});
    }
    painter_.triangles(out, toClip, glColour(tokens().zest));
}

void TryoutView::drawItems(const std::vector<Drawn>& drawn, const glm::mat4& toClip) {
    if (shaded_) {
        const Lens lens{glm::mat4(camera_.view()), glm::mat4(camera_.projection()), glm::vec3(camera_.eye()),
                        int(width() * devicePixelRatio()), int(height() * devicePixelRatio())};
        for (const Drawn& one : drawn) shaded_->draw(*arena_->shading(), one.item, one.pose, lens);
        return;
    }
    GlPainter::Look look;
    look.toClip = toClip;
    look.eye = glm::vec3(camera_.eye());
    for (const Drawn& one : drawn) {
        look.placing = one.pose;
        const Item& item = arena_->items()[std::size_t(one.item)];
        look.gloss = item.gloss;
        // A picture that glows shines as it is; anything else goes over into warm light.
        const bool screen = item.picture && item.glow > 0;
        look.tint = glm::vec4(glm::mix(item.colour, glm::vec3(1, 0.97f, 0.9f), 0.55f),
                              screen ? 0 : 0.85f * item.glow);
        if (const Shape* bent = arena_->bent(one.item))
            meshes_[std::size_t(one.item)]->moveCorners(cornersOf(*bent));
        painter_.draw(*meshes_[std::size_t(one.item)], look);
    }
}

void TryoutView::paintGL() {
    const Tokens& t = tokens();
    auto* gl = context()->functions();
    if (!failed_) {
        if (arena_ && arena_->itemsRevision() != uploadedRevision_) upload();
        gl->glViewport(0, 0, int(width() * devicePixelRatio()), int(height() * devicePixelRatio()));
        gl->glEnable(GL_DEPTH_TEST);
        gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        painter_.background(t.mistTop, t.mistBottom);
        const glm::mat4 toClip(camera_.projection() * camera_.view());
        drawGround(toClip);
        if (arena_ && (shaded_ || meshes_.size() == arena_->items().size())) {
            const auto drawn = arena_->drawn();
            gl->glDepthMask(GL_FALSE);
            if (drawn.size() < 80) drawShadows(drawn, toClip);
            gl->glDepthMask(GL_TRUE);
            const bool timed = arena_->isTimed();
            QElapsedTimer timer;
            if (timed) gl->glFinish(), timer.start();
            drawItems(drawn, toClip);
            if (timed) gl->glFinish(), arena_->drew(double(timer.nsecsElapsed()) / 1e6);
            gl->glDepthMask(GL_FALSE);
            const Physics& physics = arena_->physics();
            for (std::size_t i = 0; arena_->showsColliders() && i < physics.count(); ++i) {
                const Shape& shape = physics.shape(physics.shapeOf(int(i)));
                painter_.lines(sharpEdges(shape.positions, shape.indices, physics.pose(int(i)).matrix),
                               toClip, glColour(t.sea), 2);
            }
            for (std::size_t i = 0; arena_->showsColliders() && i < physics.fixedCount(); ++i) {
                const Shape& shape = physics.fixedShape(i);
                painter_.lines(sharpEdges(shape.positions, shape.indices, physics.fixedPose(i)), toClip,
                               glColour(t.sea), 2);
            }
            drawMarks(toClip);
            painter_.triangles(
                figureOutline(glm::dvec3(arena_->figureFoot()), arena_->figureHeight(), camera_.yaw), toClip,
                glColour(t.sea, 0.45f));
            gl->glDepthMask(GL_TRUE);
        }
        gl->glDisable(GL_DEPTH_TEST);
    }
}

void TryoutView::redraw() {
    update();
    overlay_->update();
}

void TryoutView::paintLabels(QPainter& painter) {
    const Tokens& t = tokens();
    std::vector<QRectF> taken;
    if (!message_.isEmpty()) paintLabel(painter, {22, 18}, message_, t.ink, true, Qt::AlignLeft, &taken);
    if (!arena_) return;
    const auto onScreen = [&](const glm::vec3& p) {
        const glm::dvec3 at = camera_.project(glm::dvec3(p), width(), height());
        return QPointF(at.x, at.y);
    };
    paintLabel(painter, onScreen(arena_->figureFoot()) + QPointF(0, 8),
               tr("figure %1 %2").arg(qs(showNumber(arena_->figureHeight())), qs(arena_->unit())), t.sea,
               true, Qt::AlignHCenter, &taken);
    for (const Mark& mark : arena_->marks())
        paintLabel(painter, onScreen(mark.arrow ? mark.to : (mark.from + mark.to) * 0.5f) + QPointF(0, 8),
                   qs(mark.text), mark.warning ? t.clay : t.ink, true, Qt::AlignHCenter, &taken);
}

} // namespace zl::app
