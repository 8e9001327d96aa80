#include "app/view/model_view.h"

#include "app/theme.h"
#include "app/view/backdrop.h"

#include <QElapsedTimer>
#include <QMouseEvent>
#include <QOpenGLFunctions>

namespace zl::app {

namespace {

/// Triangles drawn in one go of a heavy model at rest, so that the window stays quick to answer.
constexpr std::size_t trianglesAGo = 30000;

glm::vec4 colourOf(const QColor& c, float alpha = 1) {
    return {c.redF(), c.greenF(), c.blueF(), alpha};
}

} // namespace

ModelView::ModelView(QWidget* parent) : QOpenGLWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    overlay_ = new Overlay(this, [this](QPainter& painter) { drawLabels(painter); });
    setMinimumSize(320, 240);
    setAccessibleName(tr("View of the model"));
    setAccessibleDescription(
        tr("Right drag turns, middle drag moves, the wheel zooms, F frames, M measures."));
    restTimer_.setSingleShot(true);
    restTimer_.setInterval(180);
    connect(&restTimer_, &QTimer::timeout, this, [this] {
        resting_ = true;
        stillReady_ = false;
        stillDone_ = 0;
        if (isHeavy())
            drawTimer_.start(0);
        else
            update();
    });
    connect(&drawTimer_, &QTimer::timeout, this, &ModelView::drawStep);
    connect(&Theme::instance(), &Theme::changed, this, &ModelView::moved);
}

ModelView::~ModelView() {
    makeCurrent();
    for (Drawn* drawn : {&after_, &before_, &heated_}) drawn->full.reset(), drawn->light.reset();
    colliderMeshes_.clear();
    still_.reset();
    doneCurrent();
}

void ModelView::initializeGL() {
    QString problem;
    if (!painter_.start(&problem)) {
        failed_ = true;
        Q_EMIT viewFailed(problem);
        return;
    }
    for (Drawn* drawn : {&after_, &before_, &heated_}) upload(*drawn);
    setColliders(colliders_, handles_);
}

void ModelView::upload(Drawn& drawn) {
    drawn.full.reset();
    drawn.light.reset();
    if (!drawn.scene || failed_ || !isValid()) return;
    makeCurrent();
    drawn.full = std::make_unique<GlMesh>(drawn.scene->full);
    if (!drawn.scene->light.indices.empty()) drawn.light = std::make_unique<GlMesh>(drawn.scene->light);
}

void ModelView::setSheet(SheetPointer sheet) {
    sheet_ = std::move(sheet);
    moved();
}

void ModelView::setScenes(std::shared_ptr<const Scene> after, std::shared_ptr<const Scene> before,
                          bool frame) {
    if (after_.scene != after) {
        // A step may put the model somewhere else altogether; do not leave the camera looking at nothing.
        if (after_.scene && after && !after->bounds.empty() && !after_.scene->bounds.empty()) {
            const auto &was = after_.scene->bounds, &now = after->bounds;
            const double a = glm::length(was.size()), b = glm::length(now.size());
            frame |= glm::distance(was.centre(), now.centre()) > 0.6 * a || b > 1.5 * a || a > 1.5 * b;
        }
        after_.scene = std::move(after);
        heated_ = {};
        upload(after_);
        setHighlight(highlightNodes_, highlightMaterials_, highlightLabel_);
    }
    if (before_.scene != before) {
        before_.scene = std::move(before);
        upload(before_);
    }
    if (frame) frameAll();
    moved();
}

void ModelView::setHeat(std::shared_ptr<const Scene> heated, double hottestMetres) {
    heated_.scene = std::move(heated);
    hottest_ = hottestMetres;
    upload(heated_);
    moved();
}

void ModelView::setColliders(const std::vector<Collider>& colliders, std::vector<Handle> handles) {
    colliders_ = colliders;
    handles_ = std::move(handles);
    colliderEdges_.clear();
    if (isValid() && !failed_) {
        makeCurrent();
        colliderMeshes_.clear();
        for (const Collider& collider : colliders_) {
            const Mesh mesh = geometry::transformed(*collider.mesh, collider.placement);
            GlGeometry geometry;
            for (const glm::vec3& p : mesh.positions) geometry.corners.push_back({p, {0, 1, 0}, {0, 0}});
            geometry.indices = mesh.indices;
            geometry.ranges = {{0, mesh.indices.size(), colourOf(tokens().sea)}};
            colliderMeshes_.push_back(std::make_unique<GlMesh>(geometry));
        }
    }
    for (const Collider& collider : colliders_) {
        const auto edges =
            sharpEdges(collider.mesh->positions, collider.mesh->indices, glm::mat4(collider.placement));
        colliderEdges_.insert(colliderEdges_.end(), edges.begin(), edges.end());
    }
    update();
}

void ModelView::setHighlight(std::set<int> nodes, std::set<int> materials, const QString& label) {
    highlightNodes_ = std::move(nodes);
    highlightMaterials_ = std::move(materials);
    highlightLabel_ = label;
    highlightCorners_.clear();
    if (after_.scene && !(highlightNodes_.empty() && highlightMaterials_.empty())) {
        const Scene& scene = *after_.scene;
        for (std::size_t t = 0; t < scene.triangles; ++t)
            if (highlightNodes_.contains(scene.nodeOfTriangle[t]) ||
                highlightMaterials_.contains(scene.materialOfTriangle[t]))
                for (int k = 0; k < 3; ++k)
                    highlightCorners_.push_back(scene.mesh.positions[scene.mesh.indices[3 * t + k]]);
    }
    update();
}

void ModelView::setCaptions(const QString& before, const QString& after) {
    captionBefore_ = before;
    captionAfter_ = after;
    update();
}

void ModelView::setMessage(const QString& text) {
    message_ = text;
    update();
}

void ModelView::setTool(Tool tool) {
    tool_ = tool;
    if (tool != Tool::Measure) points_.clear();
    setCursor(tool == Tool::Look ? Qt::ArrowCursor : Qt::CrossCursor);
    Q_EMIT toolChanged();
    Q_EMIT measuredChanged();
    update();
}

std::optional<std::pair<glm::dvec3, glm::dvec3>> ModelView::measured() const {
    if (points_.size() != 2) return std::nullopt;
    return std::pair{points_[0], points_[1]};
}

glm::mat4 ModelView::toClip() const {
    return glm::mat4(camera_.projection() * camera_.view());
}

bool ModelView::isHeavy() const {
    const auto heavy = [](const Drawn& d) { return d.scene && d.scene->triangles > mostWhileMoving; };
    return heavy(after_) || (beforeShown() && heavy(before_));
}

void ModelView::moved() {
    resting_ = false;
    stillReady_ = false;
    drawTimer_.stop();
    restTimer_.start();
    update();
}

void ModelView::frameAll() {
    geometry::Bounds bounds;
    if (after_.scene) bounds = after_.scene->bounds;
    if (bounds.empty() && sheet_) bounds.add(glm::dvec3(0)), bounds.add(glm::dvec3(sheet_->figureMetres()));
    const double largest = std::max({bounds.size().x, bounds.size().y, bounds.size().z});
    // The figure is framed too, unless it would make a speck of the model or is one beside it.
    if (sheet_ && showFigure && sheet_->figureMetres() < 4 * largest &&
        sheet_->figureMetres() > 0.1 * largest) {
        const glm::dvec3 foot = figureFoot();
        bounds.add(foot - camera_.right() * (0.2 * sheet_->figureMetres()));
        bounds.add(foot + camera_.right() * (0.2 * sheet_->figureMetres()) +
                   glm::dvec3(0, sheet_->figureMetres(), 0));
    }
    camera_.frame(bounds.min, bounds.max);
    if (after_.scene && width() > 0) // the comparison's line starts across the middle of the model
        wipeShare_ = std::clamp(camera_.project(after_.scene->bounds.centre(), width(), height()).x / width(),
                                0.1, 0.9);
    moved();
}

void ModelView::resizeGL(int w, int h) {
    camera_.aspect = double(w) / std::max(1, h);
    overlay_->resize(size());
    still_.reset();
    moved();
}

glm::dvec3 ModelView::figureFoot() const {
    if (!after_.scene || after_.scene->bounds.empty() || !sheet_) return glm::dvec3(0);
    const auto& b = after_.scene->bounds;
    const double radius = 0.5 * glm::length(glm::dvec2(b.size().x, b.size().z));
    const glm::dvec3 centre(b.centre().x, 0, b.centre().z);
    return centre + camera_.right() * (radius + 0.35 * sheet_->figureMetres());
}

void ModelView::drawModel(Drawn& drawn, bool light, std::size_t first, std::size_t count) {
    GlMesh* mesh = light && drawn.light ? drawn.light.get() : drawn.full.get();
    if (!mesh) return;
    GlPainter::Look look;
    look.toClip = toClip();
    look.eye = glm::vec3(camera_.eye());
    look.heat = &drawn == &heated_;
    if (solid || look.heat) painter_.draw(*mesh, look, first, count);
    if (wire) {
        look.wire = true;
        look.heat = false;
        look.tint = colourOf(tokens().strong);
        look.opacity = solid ? 0.35f : 0.9f;
        painter_.draw(*mesh, look, first, count);
    }
}

void ModelView::drawFloor() {
    const Tokens& t = tokens();
    painter_.background(t.mistTop, t.mistBottom);
    if (!sheet_) return;
    double extent = sheet_->figureMetres();
    if (after_.scene && !after_.scene->bounds.empty())
        extent = std::max({extent * 0.5, after_.scene->bounds.size().x, after_.scene->bounds.size().y,
                           after_.scene->bounds.size().z});
    painter_.lines(floorGrid(gridStep(extent, sheet_->metresPerUnit), 12), toClip(), colourOf(t.sea, 0.20f));
}

void ModelView::drawStep() {
    if (failed_ || !isValid() || !after_.scene) return drawTimer_.stop();
    makeCurrent();
    const QSize size = this->size() * devicePixelRatio();
    if (!still_ || still_->size() != size) {
        still_ =
            std::make_unique<QOpenGLFramebufferObject>(size, QOpenGLFramebufferObject::CombinedDepthStencil);
        stillDone_ = 0;
    }
    still_->bind();
    auto* gl = context()->functions();
    gl->glViewport(0, 0, size.width(), size.height());
    gl->glEnable(GL_DEPTH_TEST);
    if (stillDone_ == 0) {
        gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        drawFloor();
    }
    const int split = int(wipeX() * devicePixelRatio());
    gl->glEnable(GL_SCISSOR_TEST);
    std::size_t most = 0;
    const auto part = [&](Drawn& drawn, int from, int to) {
        if (!drawn.full || to <= from) return;
        most = std::max(most, drawn.scene->triangles);
        gl->glScissor(from, 0, to - from, size.height());
        drawModel(drawn, false, stillDone_ * 3, trianglesAGo * 3);
    };
    if (holdingBefore_ && before_.scene)
        part(before_, 0, size.width());
    else if (wipe && before_.scene)
        part(before_, 0, split), part(afterDrawn(), split, size.width());
    else
        part(afterDrawn(), 0, size.width());
    gl->glDisable(GL_SCISSOR_TEST);
    gl->glFinish(); // keeps each go short; software GL would pile them up otherwise
    still_->release();
    stillDone_ += trianglesAGo;
    if (stillDone_ < most) return;
    drawTimer_.stop();
    stillReady_ = true;
    update();
}

void ModelView::paintGL() {
    QElapsedTimer watch;
    watch.start();
    const double ratio = devicePixelRatio();
    const QSize size = this->size() * ratio;
    auto* gl = context()->functions();
    if (!failed_) {
        gl->glViewport(0, 0, size.width(), size.height());
        gl->glEnable(GL_DEPTH_TEST);
        gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        if (stillReady_ && still_ && still_->size() == size) {
            QOpenGLFramebufferObject::bindDefault();
            auto* extra = context()->extraFunctions();
            extra->glBindFramebuffer(GL_READ_FRAMEBUFFER, still_->handle());
            extra->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, defaultFramebufferObject());
            extra->glBlitFramebuffer(0, 0, size.width(), size.height(), 0, 0, size.width(), size.height(),
                                     GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT, GL_NEAREST);
            extra->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
        } else {
            drawFloor();
            const int split = int(wipeX() * ratio);
            if (holdingBefore_ && before_.scene) {
                drawModel(before_, true);
            } else if (wipe && before_.scene) {
                gl->glEnable(GL_SCISSOR_TEST);
                gl->glScissor(0, 0, split, size.height());
                drawModel(before_, true);
                gl->glScissor(split, 0, size.width() - split, size.height());
                drawModel(afterDrawn(), true);
                gl->glDisable(GL_SCISSOR_TEST);
            } else {
                drawModel(afterDrawn(), true);
            }
        }
        drawOver();
        gl->glDisable(GL_DEPTH_TEST);
    }
    overlay_->update();
    if (!resting_) frameMillis_ = double(watch.nsecsElapsed()) / 1e6;
}

void ModelView::drawOver() {
    const Tokens& t = tokens();
    auto* gl = context()->functions();
    if (!highlightCorners_.empty()) {
        gl->glEnable(GL_POLYGON_OFFSET_FILL);
        gl->glPolygonOffset(-1.5f, -1.5f);
        painter_.triangles(highlightCorners_, toClip(), colourOf(t.clay, 0.55f));
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
    }
    if (showCollider && !colliderMeshes_.empty()) {
        GlPainter::Look look;
        look.toClip = toClip();
        look.eye = glm::vec3(camera_.eye());
        look.opacity = 0.22f;
        gl->glDepthMask(GL_FALSE);
        for (auto& mesh : colliderMeshes_) painter_.draw(*mesh, look);
        painter_.lines(colliderEdges_, toClip(), colourOf(t.sea, 0.9f), 2);
        gl->glDepthMask(GL_TRUE);
    }
    if (showFigure && sheet_ && after_.scene) {
        gl->glDepthMask(GL_FALSE);
        painter_.triangles(figureOutline(figureFoot(), sheet_->figureMetres(), camera_.yaw), toClip(),
                           colourOf(t.sea, 0.40f));
        gl->glDepthMask(GL_TRUE);
    }
}

std::optional<glm::dvec3> ModelView::surfaceAt(QPointF pixel, int* node) const {
    if (!after_.scene || !after_.scene->rays) return std::nullopt;
    const glm::dvec3 direction = camera_.ray(pixel.x(), pixel.y(), width(), height());
    const auto hit = after_.scene->rays->hit(glm::vec3(camera_.eye()), glm::vec3(direction));
    if (!hit) return std::nullopt;
    if (node) *node = after_.scene->nodeOfTriangle[hit->triangle];
    return camera_.eye() + direction * double(hit->distance);
}

int ModelView::handleAt(QPointF pixel) const {
    if (!showCollider) return -1;
    for (std::size_t i = 0; i < handles_.size(); ++i) {
        const glm::dvec3 at = camera_.project(handles_[i].at, width(), height());
        if (std::hypot(at.x - pixel.x(), at.y - pixel.y()) < 11) return int(i);
    }
    return -1;
}

void ModelView::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = lastAt_ = event->position();
    if (event->button() != Qt::LeftButton) return;
    draggingWipe_ = wipe && before_.scene && std::abs(pressedAt_.x() - wipeX()) < 14;
    draggedHandle_ = draggingWipe_ ? -1 : handleAt(pressedAt_);
}

void ModelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - lastAt_;
    lastAt_ = event->position();
    if (event->buttons() & Qt::RightButton) {
        camera_.turn(by.x(), by.y());
        moved();
    } else if (event->buttons() & Qt::MiddleButton) {
        camera_.move(by.x(), by.y(), height());
        moved();
    } else if (draggingWipe_) {
        wipeShare_ = std::clamp(event->position().x() / width(), 0.02, 0.98);
        moved();
    } else if (draggedHandle_ >= 0) {
        // How far along its axis the handle moves for the pointer's way, by the axis' direction on screen.
        const Handle& handle = handles_[draggedHandle_];
        const double step = camera_.distance * 0.01;
        const glm::dvec3 a = camera_.project(handle.at, width(), height()),
                         b = camera_.project(handle.at + handle.axis * step, width(), height());
        const glm::dvec2 axis(b.x - a.x, b.y - a.y);
        const QPointF way = event->position() - pressedAt_;
        if (glm::length(axis) > 1e-6)
            Q_EMIT handleDragged(handle.id,
                                 (way.x() * axis.x + way.y() * axis.y) / glm::dot(axis, axis) * step, false);
    } else if (tool_ == Tool::Look) {
        const bool onWipe = wipe && before_.scene && std::abs(event->position().x() - wipeX()) < 14;
        setCursor(onWipe                             ? Qt::SplitHCursor
                  : handleAt(event->position()) >= 0 ? Qt::SizeAllCursor
                                                     : Qt::ArrowCursor);
    }
}

void ModelView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    if (draggedHandle_ >= 0)
        Q_EMIT handleDragged(handles_[std::min<std::size_t>(draggedHandle_, handles_.size() - 1)].id, 0,
                             true);
    const bool clicked =
        draggedHandle_ < 0 && !draggingWipe_ && (event->position() - pressedAt_).manhattanLength() < 5;
    draggedHandle_ = -1;
    draggingWipe_ = false;
    if (!clicked) return;
    int node = -1;
    const auto at = surfaceAt(event->position(), &node);
    if (tool_ == Tool::Measure && at) {
        if (points_.size() == 2) points_.clear();
        points_.push_back(*at);
        Q_EMIT measuredChanged();
    } else if (tool_ == Tool::PickParts) {
        Q_EMIT nodePicked(at ? node : -1);
    }
    update();
}

void ModelView::wheelEvent(QWheelEvent* event) {
    const QPointF at = event->position();
    camera_.zoom(std::pow(0.9988, event->angleDelta().y()), at.x() / width() * 2 - 1,
                 1 - at.y() / height() * 2);
    moved();
}

void ModelView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_F) return frameAll();
    if (event->key() == Qt::Key_M) return setTool(tool_ == Tool::Measure ? Tool::Look : Tool::Measure);
    if (event->key() == Qt::Key_Escape && tool_ != Tool::Look) return setTool(Tool::Look);
    if (event->key() == Qt::Key_B && !event->isAutoRepeat()) {
        holdingBefore_ = true;
        return moved();
    }
    const double turn = 12;
    if (event->key() == Qt::Key_Left)
        camera_.turn(turn, 0);
    else if (event->key() == Qt::Key_Right)
        camera_.turn(-turn, 0);
    else if (event->key() == Qt::Key_Up)
        camera_.turn(0, turn);
    else if (event->key() == Qt::Key_Down)
        camera_.turn(0, -turn);
    else if (event->key() == Qt::Key_Plus)
        camera_.zoom(0.9, 0, 0);
    else if (event->key() == Qt::Key_Minus)
        camera_.zoom(1 / 0.9, 0, 0);
    else
        return QOpenGLWidget::keyPressEvent(event);
    moved();
}

void ModelView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_B && !event->isAutoRepeat()) {
        holdingBefore_ = false;
        return moved();
    }
    QOpenGLWidget::keyReleaseEvent(event);
}

} // namespace zl::app
