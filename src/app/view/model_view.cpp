#include "app/view/model_view.h"

#include "app/theme.h"
#include "app/view/backdrop.h"
#include "app/view/front_arrow.h"

#include <QOpenGLFunctions>

namespace zl::app {

ModelView::ModelView(Selected& selected, QWidget* parent) : QOpenGLWidget(parent), selected_(selected) {
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
        stillRows_.reset();
        drawTimer_.start(0);
    });
    connect(&drawTimer_, &QTimer::timeout, this, &ModelView::drawStep);
    connect(&Theme::instance(), &Theme::changed, this, &ModelView::moved);
    connect(&selected_, &Selected::changed, this, &ModelView::showSelected);
}

ModelView::~ModelView() {
    makeCurrent();
    for (Drawn* drawn : {&after_, &before_, &heated_, &posed_, &ghost_, &yardstick_})
        drawn->full.reset(), drawn->light.reset();
    still_.reset();
    painter_.end();
    doneCurrent();
}

void ModelView::initializeGL() {
    QString problem;
    if (!painter_.start(&problem)) {
        failed_ = true;
        Q_EMIT viewFailed(problem);
        return;
    }
    for (Drawn* drawn : {&after_, &before_, &heated_, &posed_, &ghost_, &yardstick_}) upload(*drawn);
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
        posed_ = {};
        painter_.forgetShadow();
        upload(after_);
        setHighlight(lit_, highlightLabel_);
        showSelected();
    }
    if (before_.scene != before) {
        before_.scene = std::move(before);
        upload(before_);
    }
    if (frame && holding_ != &handles_) frameAll(); // the hand needs the ground to stand still
    moved();
    Q_EMIT sceneChanged();
}

void ModelView::setPosed(std::shared_ptr<const Scene> posed) {
    if (posed_.scene == posed) return;
    const bool sameCorners = posed && posed_.full && posed_.scene &&
                             posed->full.corners.size() == posed_.scene->full.corners.size();
    posed_.scene = std::move(posed);
    painter_.forgetShadow();
    if (sameCorners && isValid()) {
        makeCurrent();
        posed_.full->moveCorners(posed_.scene->full.corners);
    } else {
        upload(posed_);
    }
    if (!selected_.empty()) showSelected();
    moved();
    Q_EMIT sceneChanged();
}

void ModelView::setGhost(std::shared_ptr<const Scene> ghost) {
    if (ghost_.scene == ghost) return;
    ghost_.scene = std::move(ghost);
    upload(ghost_);
    moved();
}

void ModelView::setHeat(std::shared_ptr<const Scene> heated, double hottestMetres) {
    heated_.scene = std::move(heated);
    hottest_ = hottestMetres;
    upload(heated_);
    moved();
}

void ModelView::setSurfaces(SurfacePaint surfaces) {
    if (surfaces.empty() && surfaces_.empty()) return;
    surfaces_ = std::move(surfaces);
    redraw();
}

void ModelView::setDifference(std::shared_ptr<const BodyDifference> difference) {
    if (difference == difference_) return;
    difference_ = std::move(difference);
    moved();
}

void ModelView::setSeeThrough(float opacity) {
    if (std::exchange(seeThrough_, opacity) != opacity) moved();
}

void ModelView::setColliders(const std::vector<Collider>& colliders) {
    bodies_.set(colliders);
    redraw();
}

void ModelView::setBodiesApart(float apart) {
    bodies_.setApart(apart);
    redraw();
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
    redraw();
}

void ModelView::setSeenThrough(std::vector<glm::vec3> corners) {
    seenThrough_ = std::move(corners);
    redraw();
}

void ModelView::showSelected() {
    selectedCorners_.clear();
    if (scene() && !selected_.empty()) {
        auto chosen = selected_.in(scene()->model);
        for (const auto& [node, original] : echoes_)
            if (std::size_t(node) < chosen.faces.size())
                chosen.faces[std::size_t(node)] = chosen.faces[std::size_t(original)];
        selectedCorners_ = cornersOf(*scene(), chosen);
    }
    redraw();
}

void ModelView::setEchoes(std::map<int, int> echoes) {
    echoes_ = std::move(echoes);
    showSelected();
}

int ModelView::standsFor(int node) const {
    const auto found = echoes_.find(node);
    return found == echoes_.end() ? node : found->second;
}

void ModelView::setCaptions(const QString& before, const QString& after) {
    captionBefore_ = before;
    captionAfter_ = after;
    redraw();
}

void ModelView::setFront(std::optional<Front> front) {
    front_ = std::move(front);
    moved();
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
    redraw();
}

void ModelView::setTool(ViewTool* tool) {
    ViewTool* const wanted = tool ? tool : &look_;
    if (wanted == tool_) return;
    holding_ = nullptr;
    std::exchange(tool_, wanted)->putDown(*this);
    setCursor(tool ? Qt::CrossCursor : Qt::ArrowCursor);
    Q_EMIT toolChanged();
    redraw();
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
    stillRows_.reset();
    longestStepMillis_ = 0;
    drawTimer_.stop();
    restTimer_.start();
    redraw();
    Q_EMIT looked();
}

void ModelView::frame(const glm::dvec3& place, double around) {
    const glm::dvec3 half(std::max(around, 1e-4) / 2);
    camera_.frame(place - half, place + half);
    moved();
}

void ModelView::lookFrom(From from) {
    camera_.lookFrom(from == From::Side ? glm::half_pi<double>() : 0, from == From::Above);
    frameAll();
}

void ModelView::frameAll() {
    geometry::Bounds bounds;
    if (scene()) bounds = scene()->bounds;
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
        wipe_.stand(std::clamp(onScreen(after_.scene->bounds.centre()).x() / width(), 0.1, 0.9));
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

} // namespace zl::app
