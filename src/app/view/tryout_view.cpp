#include "app/view/tryout_view.h"

#include "app/theme.h"
#include "app/view/backdrop.h"
#include "app/view/camera_hands.h"

#include "core/base/units.h"

#include <QPainter>

namespace zl::app {

using namespace standins::table;

namespace {

constexpr double tableWidth = 12, tableDepth = 7, figureHeight = 1.28;
glm::vec4 colourOf(const QColor& c, float alpha = 1) {
    return {c.redF(), c.greenF(), c.blueF(), alpha};
}

GlGeometry geometryOf(const Figure& figure) {
    GlGeometry out;
    for (std::size_t i = 0; i < figure.model.positions.size(); ++i)
        out.corners.push_back({figure.model.positions[i],
                               figure.model.normals[i],
                               {figure.model.uvs[i].x, 1 - figure.model.uvs[i].y}});
    out.indices = figure.model.indices;
    GlGeometry::Range range{0, out.indices.size()};
    if (figure.picture) {
        auto pixels = std::make_shared<Pixels>();
        pixels->width = figure.picture->width, pixels->height = figure.picture->height;
        pixels->rgba = figure.picture->rgba;
        range.picture = pixels;
        range.colour = {1, 1, 1, 1};
    } else if (figure.colour != glm::vec3(0.8f)) {
        range.colour = glm::vec4(figure.colour, 1);
    }
    out.ranges = {range};
    return out;
}

} // namespace

TryoutView::TryoutView(QWidget* parent) : QOpenGLWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("The table"));
    setAccessibleDescription(
        tr("Left drag picks a figure up, letting go drops it. Right drag turns the view, the wheel zooms."));
    overlay_ = new Overlay(this, [this](QPainter& painter) { paintLabels(painter); });
    camera_.yaw = 0.12;
    camera_.pitch = 0.3;
    connect(&timer_, &QTimer::timeout, this, &TryoutView::step);
}

TryoutView::~TryoutView() {
    makeCurrent();
    model_.reset();
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
    model_.reset();
    if (!figure_ || failed_ || !isValid()) return;
    makeCurrent();
    model_ = std::make_unique<GlMesh>(geometryOf(*figure_));
}

void TryoutView::setFigure(std::shared_ptr<const Figure> figure) {
    figure_ = std::move(figure);
    world_ = figure_ ? std::make_unique<World>(*figure_) : nullptr;
    upload();
    if (figure_) {
        setFinish(QString::fromStdString(figure_->finish));
        baseToBase();
        frameAll();
    } else {
        timer_.stop();
        update();
    }
}

void TryoutView::setMessage(const QString& text) {
    message_ = text;
    update();
}

void TryoutView::setFinish(const QString& finish) {
    gloss_ = finish == "gloss" ? 0.8f : finish == "satin" ? 0.35f : finish == "wood" ? 0.18f : 0.02f;
    update();
}

float TryoutView::foot() const {
    return figure_ ? figure_->model.low().y : 0;
}

void TryoutView::clearWorld() {
    world_->clear();
    clock_.start();
    timer_.start(16);
}

void TryoutView::baseToBase() {
    if (!world_) return;
    clearWorld();
    const auto apart = float(touchingDistance(*world_, *figure_, collider_)) + 0.001f;
    world_->add({-apart / 2, -foot(), 0}, collider_);
    world_->add({apart / 2, -foot(), 0}, collider_);
    showing_ = Showing::BaseToBase;
}

void TryoutView::drop() {
    if (!world_) return;
    clearWorld();
    world_->add({0, 3 - foot(), 0}, collider_, 0.05f, 1.1f);
    showing_ = Showing::Single;
}

void TryoutView::stack() {
    if (!world_) return;
    clearWorld();
    world_->add({0, -foot(), 0}, collider_);
    world_->add({0, world_->colliderShape(collider_).high().y - 2 * foot() + 0.25f, 0}, collider_);
    showing_ = Showing::Stack;
}

void TryoutView::knockOver() {
    if (!world_) return;
    clock_.start();
    timer_.start(16);
    if (world_->count() > 0) world_->push(0, {2.2f, 0, 0.4f});
    showing_ = Showing::Single;
}

void TryoutView::addCopy() {
    if (!world_) return;
    clock_.start();
    timer_.start(16);
    const int n = int(world_->count());
    world_->add({-3.2f + 0.9f * float(n % 8), 1 - foot(), 1.4f + 0.5f * float(n / 8)}, collider_);
}

void TryoutView::setCollider(ColliderKind kind) {
    collider_ = kind;
    if (showing_ == Showing::Stack)
        stack();
    else
        baseToBase();
}

void TryoutView::frameAll() {
    const glm::vec3 low = figure_ ? figure_->model.low() : glm::vec3(-1),
                    high = figure_ ? figure_->model.high() : glm::vec3(1);
    camera_.frame({low.x * 3 - 0.5, -0.3, low.z},
                  {high.x * 3 + figureHeight, std::max(double(high.y) * 1.5, 1.6), high.z});
    update();
}

void TryoutView::resizeGL(int w, int h) {
    camera_.aspect = double(w) / std::max(1, h);
    overlay_->resize(size());
}

void TryoutView::step() {
    if (!world_) return timer_.stop();
    world_->advance(std::min(0.1, double(clock_.restart()) / 1000));
    Q_EMIT stepped();
    update();
    quietFrames_ = world_->atRest() && !world_->holding() ? quietFrames_ + 1 : 0;
    if (quietFrames_ > 30) timer_.stop(); // nothing moves: leave the processor alone
}

void TryoutView::paintGL() {
    const Tokens& t = tokens();
    auto* gl = context()->functions();
    if (!failed_) {
        gl->glViewport(0, 0, int(width() * devicePixelRatio()), int(height() * devicePixelRatio()));
        gl->glEnable(GL_DEPTH_TEST);
        gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        painter_.background(t.mistTop, t.mistBottom);
        const glm::mat4 toClip(camera_.projection() * camera_.view());
        const auto quad = [&](glm::vec3 a, glm::vec3 b, glm::vec3 c, glm::vec3 d, const QColor& colour) {
            painter_.triangles({a, b, c, a, c, d}, toClip, colourOf(colour));
        };
        const float w = tableWidth / 2, d = tableDepth / 2;
        quad({-w, 0, d}, {w, 0, d}, {w, 0, -d}, {-w, 0, -d}, QColor("#8B6B4B"));
        quad({-w, -0.35f, d}, {w, -0.35f, d}, {w, 0, d}, {-w, 0, d}, QColor("#6E5238"));
        std::vector<glm::vec3> boards;
        for (int i = 1; i < 8; ++i)
            boards.insert(boards.end(), {glm::vec3(-w, 0.001f, -d + i * 2 * d / 8),
                                         glm::vec3(w, 0.001f, -d + i * 2 * d / 8)});
        painter_.lines(boards, toClip, {0.30f, 0.21f, 0.13f, 0.35f});
        if (world_ && model_) {
            GlPainter::Look look;
            look.toClip = toClip;
            look.eye = glm::vec3(camera_.eye());
            look.gloss = gloss_;
            gl->glDepthMask(GL_FALSE);
            for (std::size_t i = 0; i < world_->count();
                 ++i) { // a soft disc under each stands for its shadow
                const glm::mat4 pose = world_->pose(int(i)).matrix;
                const float r = 0.55f * float(footWidth(*figure_)) + 0.06f * pose[3].y;
                std::vector<glm::vec3> disc;
                for (int k = 0; k < 24; ++k)
                    disc.insert(disc.end(), {glm::vec3(pose[3].x, 0.002f, pose[3].z),
                                             glm::vec3(pose[3].x + r * std::cos(k * 0.2618f), 0.002f,
                                                       pose[3].z + r * std::sin(k * 0.2618f)),
                                             glm::vec3(pose[3].x + r * std::cos((k + 1) * 0.2618f), 0.002f,
                                                       pose[3].z + r * std::sin((k + 1) * 0.2618f))});
                painter_.triangles(disc, toClip,
                                   {0.1f, 0.07f, 0.04f, 0.35f / (1 + std::max(0.0f, pose[3].y))});
            }
            gl->glDepthMask(GL_TRUE);
            for (std::size_t i = 0; i < world_->count(); ++i) {
                look.placing = world_->pose(int(i)).matrix;
                painter_.draw(*model_, look);
            }
            gl->glDepthMask(GL_FALSE);
            for (std::size_t i = 0; showColliders && i < world_->count(); ++i) {
                const auto& shape = world_->colliderShape(world_->colliderOf(int(i)));
                painter_.lines(sharpEdges(shape.positions, shape.indices, world_->pose(int(i)).matrix),
                               toClip, colourOf(QColor("#2C6C8C")), 2);
            }
            painter_.triangles(figureOutline({figureX(), 0, 0}, figureHeight, camera_.yaw), toClip,
                               colourOf(QColor("#2C6C8C"), 0.45f));
            gl->glDepthMask(GL_TRUE);
        }
        gl->glDisable(GL_DEPTH_TEST);
    }
    overlay_->update();
}

void TryoutView::paintLabels(QPainter& painter) {
    const Tokens& t = tokens();
    painter.setFont(Theme::instance().text(12, 500));
    const auto boxed = [&](QPointF at, const QString& text, const QColor& ink) {
        paintLabel(painter, at - QPointF(0, painter.fontMetrics().height() / 2.0), text, ink);
    };
    if (!message_.isEmpty()) {
        const double wide = painter.fontMetrics().horizontalAdvance(message_);
        boxed({26 + wide / 2, 28}, message_, t.ink);
    }
    if (!figure_ || !world_) return;
    const auto onScreen = [&](const glm::dvec3& p) {
        const glm::dvec3 at = camera_.project(p, width(), height());
        return QPointF(at.x, at.y);
    };
    boxed(onScreen({figureX(), 0, 0}) + QPointF(0, 14), tr("figure %1 u").arg(figureHeight), t.sea);
    if (showing_ == Showing::BaseToBase && world_->count() >= 2) {
        const double half = footWidth(*figure_) / 2, z = figure_->model.high().z + 0.12;
        const double a = world_->pose(0).matrix[3].x + half, b = world_->pose(1).matrix[3].x - half,
                     gap = b - a;
        const QPointF left = onScreen({a, 0, z}), right = onScreen({b, 0, z});
        painter.setPen(QPen(t.paper, 2));
        painter.drawLine(left, right);
        for (const QPointF& end : {left, right}) painter.drawLine(end - QPointF(0, 7), end + QPointF(0, 7));
        boxed((left + right) / 2 + QPointF(0, 24),
              gap >= 0 ? tr("%1 u between feet").arg(QString::fromStdString(showNumber(gap, 2)))
                       : tr("feet overlap by %1 u").arg(QString::fromStdString(showNumber(-gap, 2))),
              t.ink);
    } else if (showing_ == Showing::Stack && world_->count() >= 2) {
        const auto pose = world_->pose(1).matrix;
        boxed(onScreen(glm::dvec3(pose[3]) + glm::dvec3(0.9, 0.1, 0)),
              tr("stands at %1 u").arg(QString::fromStdString(showNumber(pose[3].y + foot(), 2))), t.ink);
    }
}

double TryoutView::figureX() const {
    return figure_ ? std::max(1.9, 2.1 * double(figure_->model.high().x) + 0.9) : 1.9;
}

void TryoutView::mousePressEvent(QMouseEvent* event) {
    lastAt_ = event->position();
    if (event->button() != Qt::LeftButton || !world_) return;
    const glm::dvec3 direction = camera_.ray(lastAt_.x(), lastAt_.y(), width(), height());
    if (!world_->grab(glm::vec3(camera_.eye()), glm::vec3(direction))) return;
    setCursor(Qt::ClosedHandCursor);
    showing_ = Showing::Single;
    clock_.start();
    timer_.start(16);
}

void TryoutView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (world_ && world_->holding()) {
        world_->carry(glm::vec3(camera_.eye()),
                      glm::vec3(camera_.ray(lastAt_.x(), lastAt_.y(), width(), height())));
    } else if (dragCamera(camera_, event->buttons(), by, height())) {
        camera_.pitch = std::max(0.03, camera_.pitch); // not below the table
        update();
    }
}

void TryoutView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !world_) return;
    world_->release();
    unsetCursor();
}

void TryoutView::wheelEvent(QWheelEvent* event) {
    if (wheelCamera(camera_, *event, size())) update();
}

void TryoutView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_F) return frameAll();
    if (!keyCamera(camera_, event->key())) return QOpenGLWidget::keyPressEvent(event);
    camera_.pitch = std::max(0.03, camera_.pitch);
    update();
}

} // namespace zl::app
