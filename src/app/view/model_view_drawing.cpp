// What the view draws with OpenGL, and in how many goes.
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

void ModelView::drawModel(Drawn& drawn, bool light, std::size_t first, std::size_t count) {
    GlMesh* mesh = light && drawn.light ? drawn.light.get() : drawn.full.get();
    if (!mesh) return;
    GlPainter::Look look = this->look();
    look.heat = &drawn == &heated_ || !drawn.scene->weighed.empty();
    look.faces = look.heat ? Faces::Pictured : faces;
    look.opacity = difference_ ? 0.1f : seeThrough_;
    look.grid = drawn.scene->blockEdges;
    if (solid || look.heat) painter_.draw(*mesh, look, first, count);
    look.opacity = 1;
    if (wire) {
        look.wire = true;
        look.heat = false;
        look.tint = glColour(tokens().strong);
        look.opacity = solid ? 0.35f : 0.9f;
        painter_.draw(*mesh, look, first, count);
    }
}

void ModelView::drawGhost() {
    if (!ghost_.full || holdingBefore_) return;
    GlPainter::Look look = this->look();
    look.tint = glColour(tokens().clay, 0.45f);
    look.opacity = 0.32f;
    auto* gl = context()->functions();
    gl->glDepthMask(GL_FALSE);
    painter_.draw(*ghost_.full, look);
    gl->glDepthMask(GL_TRUE);
}

GlPainter::Look ModelView::look() const {
    GlPainter::Look look;
    look.toClip = toClip();
    look.eye = glm::vec3(camera_.eye());
    // The sky's and the floor's colours, half as strong as they are, so that what is white stays white.
    const auto light = [](const QColor& c, float most) {
        const glm::vec3 colour(c.redF(), c.greenF(), c.blueF());
        const float brightest = std::max({colour.r, colour.g, colour.b, 0.01f});
        return glm::mix(glm::vec3(1), colour / brightest, 0.6f) * most;
    };
    look.above = light(tokens().mistTop, 1.06f);
    look.below = light(tokens().mistBottom, 0.62f);
    return look;
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
    if (solid) painter_.shade(scene()->shadow, toClip(), glColour(t.shadow));
}

void ModelView::drawStep() {
    if (failed_ || !isValid() || !after_.scene) return drawTimer_.stop();
    makeCurrent();
    QElapsedTimer watch;
    watch.start();
    if (stillRows_)
        finishStep();
    else
        drawSome();
    longestStepMillis_ = std::max(longestStepMillis_, double(watch.nsecsElapsed()) / 1e6);
}

void ModelView::drawSome() {
    const QSize size = this->size() * devicePixelRatio();
    const int times = devicePixelRatio() < 1.75 ? 2 : 1; // fine screens have fine edges
    if (!still_ || still_->size() != size) {
        still_ = std::make_unique<GlStill>(size, times);
        stillDone_ = 0;
    }
    still_->bind();
    auto* gl = context()->functions();
    gl->glEnable(GL_DEPTH_TEST);
    if (stillDone_ == 0) {
        gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        drawFloor();
    }
    const QSize drawn = still_->drawn();
    const int split = int(wipe_.x(width()) * devicePixelRatio()) * times;
    gl->glEnable(GL_SCISSOR_TEST);
    std::size_t most = 0;
    const auto part = [&](Drawn& of, int from, int to) {
        if (!of.full || to <= from) return;
        most = std::max(most, of.scene->triangles);
        gl->glScissor(from, 0, to - from, drawn.height());
        drawModel(of, false, stillDone_ * 3, trianglesAGo * 3);
    };
    if (holdingBefore_ && before_.scene)
        part(before_, 0, drawn.width());
    else if (wipe && before_.scene)
        part(before_, 0, split), part(afterDrawn(), split, drawn.width());
    else
        part(afterDrawn(), 0, drawn.width());
    gl->glDisable(GL_SCISSOR_TEST);
    gl->glFinish(); // keeps each go short; software GL would pile them up otherwise
    stillDone_ += trianglesAGo;
    if (stillDone_ < most) return;
    drawGhost();
    drawStanding();
    stillRows_ = 0;
}

void ModelView::finishStep() {
    constexpr int rowsAGo = 96;
    const auto& bounds = scene()->bounds;
    const float reach = solid && !bounds.empty() ? 0.07f * float(glm::length(bounds.size())) : 0;
    still_->finish(glm::mat4(camera_.projection()), reach, *stillRows_, rowsAGo);
    *stillRows_ += rowsAGo;
    if (*stillRows_ < still_->size().height()) return;
    drawTimer_.stop();
    stillReady_ = true;
    redraw();
}

bool ModelView::playsLighter() const {
    const auto& scene = posed_.scene;
    return scene && scene->playing && scene->full.indices.size() == scene->playing->indices.size();
}

void ModelView::redraw() {
    update();
    // While a heavy clip plays labels stay where they are, and painting them would take as long as the piece.
    if (playsLighter() && !bones_.shown && overlaid_.isValid() && overlaid_.elapsed() < 150) return;
    overlay_->update();
    overlaid_.start();
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
            still_->copyTo(defaultFramebufferObject());
        } else {
            drawFloor();
            const int split = int(wipe_.x(width()) * ratio);
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
            drawGhost();
            drawStanding();
        }
        drawOver();
        gl->glDisable(GL_DEPTH_TEST);
    }
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
    if (!seenThrough_.empty()) {
        // What is inside cannot be seen otherwise; where it shows by itself it is stronger.
        gl->glDepthMask(GL_FALSE);
        gl->glDisable(GL_DEPTH_TEST);
        painter_.triangles(seenThrough_, toClip(), glColour(t.clay, 0.32f));
        gl->glEnable(GL_DEPTH_TEST);
        gl->glEnable(GL_POLYGON_OFFSET_FILL);
        gl->glPolygonOffset(-1.5f, -1.5f);
        painter_.triangles(seenThrough_, toClip(), glColour(t.clay, 0.5f));
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
        gl->glDepthMask(GL_TRUE);
    }
    if (!difference_ && !surfaces_.empty()) {
        gl->glEnable(GL_POLYGON_OFFSET_FILL);
        gl->glPolygonOffset(-1.2f, -1.2f);
        surfaces_.draw(painter_, toClip(), float(devicePixelRatio()));
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
    }
    if (!selectedCorners_.empty()) {
        gl->glEnable(GL_POLYGON_OFFSET_FILL);
        gl->glPolygonOffset(-1.6f, -1.6f);
        painter_.triangles(selectedCorners_, toClip(), glColour(t.zest, 0.85f),
                           float(9 * devicePixelRatio()));
        gl->glDisable(GL_POLYGON_OFFSET_FILL);
    }
    if (difference_) {
        gl->glDisable(GL_DEPTH_TEST); // it lies within the piece as well as around it
        drawDifference(painter_, toClip(), *difference_);
        gl->glEnable(GL_DEPTH_TEST);
        return;
    }
    // Where kinds are painted, what fills bodies would hide them.
    if (showCollider)
        bodies_.draw(painter_, toClip(), *gl,
                     surfaces_.empty() ? Bodies::Drawn::Filled : Bodies::Drawn::Outlines);
}

void ModelView::drawStanding() {
    drawBeside();
    auto* gl = context()->functions();
    if (showFigure && sheet_ && after_.scene) {
        gl->glDepthMask(GL_FALSE);
        painter_.triangles(figureOutline(figureFoot(), sheet_->figureMetres(), camera_.yaw), toClip(),
                           glColour(tokens().sea, 0.40f));
        gl->glDepthMask(GL_TRUE);
    }
}

void ModelView::drawBeside() {
    if (!after_.scene || after_.scene->bounds.empty()) return;
    GlPainter::Look look = this->look();
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
