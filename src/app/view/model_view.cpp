#include "app/view/model_view.h"

#include "app/theme.h"
#include "app/view/backdrop.h"
#include "app/view/front_arrow.h"

#include <QElapsedTimer>
#include <QOpenGLFunctions>

namespace zl::app {

namespace {

/// Triangles drawn in one go of a heavy model at rest, so that the window stays quick to answer.
constexpr std::size_t trianglesAGo = 30000;

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
    for (Drawn* drawn : {&after_, &before_, &heated_, &yardstick_}) drawn->full.reset(), drawn->light.reset();
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
    for (Drawn* drawn : {&after_, &before_, &heated_, &yardstick_}) upload(*drawn);
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
        setHighlight(lit_, highlightLabel_);
        // The parts may be others now; keep those that are still there.
        std::set<int> kept;
        if (after_.scene)
            for (const int node : after_.scene->nodeOfTriangle)
                if (selected_.contains(node)) kept.insert(node);
        select(std::move(kept));
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
            geometry.ranges = {{0, mesh.indices.size(), glColour(tokens().sea)}};
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

void ModelView::setHighlight(LitFaces lit, const QString& label) {
    lit_ = std::move(lit);
    highlightLabel_ = label;
    highlightCorners_ =
        after_.scene && !lit_.empty() ? cornersOf(*after_.scene, lit_) : std::vector<glm::vec3>();
    highlightEdges_.clear(); // single faces may be as thin as a thread
    if (after_.scene && !lit_.faces.empty()) {
        const auto corners = cornersOf(*after_.scene, {{}, {}, lit_.faces});
        for (std::size_t i = 0; i < corners.size(); ++i)
            highlightEdges_.insert(highlightEdges_.end(), {corners[i], corners[i % 3 == 2 ? i - 2 : i + 1]});
    }
    update();
}

void ModelView::select(std::set<int> nodes) {
    selected_ = std::move(nodes);
    selectedCorners_ = after_.scene && !selected_.empty() ? cornersOf(*after_.scene, {selected_, {}, {}})
                                                          : std::vector<glm::vec3>();
    Q_EMIT selectionChanged();
    update();
}

void ModelView::setCaptions(const QString& before, const QString& after) {
    captionBefore_ = before;
    captionAfter_ = after;
    update();
}

void ModelView::setFront(std::optional<Front> front) {
    front_ = std::move(front);
    update();
}

void ModelView::setYardstick(std::shared_ptr<const Scene> scene, const QString& caption) {
    yardstickCaption_ = caption;
    if (yardstick_.scene != scene) {
        yardstick_.scene = std::move(scene);
        upload(yardstick_);
    }
    moved();
}

void ModelView::setMessage(const QString& text) {
    message_ = text;
    update();
}

void ModelView::setTool(Tool tool) {
    tool_ = tool;
    if (tool != Tool::Measure) points_.clear(), hovered_.reset();
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
    if (stack && after_.scene && !bounds.empty())
        bounds.add(besideFoot() + glm::dvec3(0, after_.scene->bounds.size().y * stackCount(), 0));
    if (showYardstick && yardstick_.scene && !bounds.empty()) {
        const glm::dvec3 half = yardstick_.scene->bounds.size() * 0.5;
        bounds.add(besideFoot() - glm::dvec3(half.x, 0, half.z));
        bounds.add(besideFoot() + glm::dvec3(half.x, 2 * half.y, half.z));
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
        look.tint = glColour(tokens().strong);
        look.opacity = solid ? 0.35f : 0.9f;
        painter_.draw(*mesh, look, first, count);
    }
}

void ModelView::drawFloor() {
    const Tokens& t = tokens();
    painter_.background(t.mistTop, t.mistBottom);
    if (!sheet_ || !after_.scene) return; // a message stands there
    double extent = sheet_->figureMetres();
    if (!after_.scene->bounds.empty())
        extent = std::max({extent * 0.5, after_.scene->bounds.size().x, after_.scene->bounds.size().y,
                           after_.scene->bounds.size().z});
    painter_.lines(floorGrid(gridStep(extent, sheet_->metresPerUnit), 12), toClip(), glColour(t.sea, 0.20f));
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
        painter_.triangles(highlightCorners_, toClip(), glColour(t.clay, 0.55f));
        gl->glDepthFunc(GL_LEQUAL);
        painter_.lines(highlightEdges_, toClip(), glColour(t.clay), 3);
        gl->glDepthFunc(GL_LESS);
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
    }
    if (!selectedCorners_.empty()) {
        gl->glEnable(GL_POLYGON_OFFSET_FILL);
        gl->glPolygonOffset(-1.0f, -1.0f);
        painter_.triangles(selectedCorners_, toClip(), glColour(t.sea, 0.42f));
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
    }
    if (showCollider && !colliderMeshes_.empty()) {
        GlPainter::Look look;
        look.toClip = toClip();
        look.eye = glm::vec3(camera_.eye());
        look.opacity = 0.22f;
        gl->glDepthMask(GL_FALSE);
        for (auto& mesh : colliderMeshes_) painter_.draw(*mesh, look);
        painter_.lines(colliderEdges_, toClip(), glColour(t.sea, 0.9f), 2);
        gl->glDepthMask(GL_TRUE);
    }
    drawBeside();
    if (showFigure && sheet_ && after_.scene) {
        gl->glDepthMask(GL_FALSE);
        painter_.triangles(figureOutline(figureFoot(), sheet_->figureMetres(), camera_.yaw), toClip(),
                           glColour(t.sea, 0.40f));
        gl->glDepthMask(GL_TRUE);
    }
}

glm::dvec3 ModelView::besideFoot() const {
    if (!after_.scene || after_.scene->bounds.empty()) return glm::dvec3(0);
    const auto& b = after_.scene->bounds;
    const auto radius = [](const geometry::Bounds& of) {
        return 0.5 * glm::length(glm::dvec2(of.size().x, of.size().z));
    };
    const double other = showYardstick && yardstick_.scene ? radius(yardstick_.scene->bounds) : radius(b);
    // On the figure's other side, so that both can be compared with it.
    return glm::dvec3(b.centre().x, 0, b.centre().z) - camera_.right() * (1.02 * (radius(b) + other));
}

int ModelView::stackCount() const {
    if (!after_.scene || !sheet_ || !(after_.scene->bounds.size().y > 0)) return 0;
    // As many as stand as high as the figure, and one at least.
    return int(std::clamp(std::ceil(sheet_->figureMetres() / after_.scene->bounds.size().y), 1.0, 12.0));
}

void ModelView::drawBeside() {
    if (!after_.scene || after_.scene->bounds.empty()) return;
    GlPainter::Look look;
    look.toClip = toClip();
    look.eye = glm::vec3(camera_.eye());
    const auto& b = after_.scene->bounds;
    if (stack && after_.full) {
        // Copies of the light stand-in: a measuring stick, not a picture.
        GlMesh* mesh = after_.light ? after_.light.get() : after_.full.get();
        const glm::dvec3 foot = besideFoot() - glm::dvec3(b.centre().x, b.min.y, b.centre().z);
        for (int i = 0; i < stackCount(); ++i) {
            look.placing =
                glm::translate(glm::mat4(1.0f), glm::vec3(foot + glm::dvec3(0, i * b.size().y, 0)));
            painter_.draw(*mesh, look);
        }
    } else if (showYardstick && yardstick_.full) {
        const auto& y = yardstick_.scene->bounds;
        look.placing = glm::translate(
            glm::mat4(1.0f), glm::vec3(besideFoot() - glm::dvec3(y.centre().x, y.min.y, y.centre().z)));
        look.tint = glColour(tokens().sea, 0.35f);
        painter_.draw(yardstick_.light ? *yardstick_.light : *yardstick_.full, look);
    }
    if (front_) {
        auto* gl = context()->functions();
        gl->glDepthMask(GL_FALSE);
        painter_.triangles(
            FrontArrow(b, front_->angle).triangles(), toClip(),
            glColour(front_->known ? tokens().zest : tokens().dim, front_->known ? 0.95f : 0.7f));
        gl->glDepthMask(GL_TRUE);
    }
}

} // namespace zl::app
