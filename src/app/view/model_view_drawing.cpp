// What the view draws with OpenGL, and in how many goes.
#include "app/view/model_view.h"

#include "app/theme.h"
#include "app/view/backdrop.h"
#include "app/view/front_arrow.h"

#include <QElapsedTimer>
#include <QOpenGLExtraFunctions>
#include <QOpenGLFunctions>

namespace zl::app {

namespace {

/// Triangles drawn in one go of a heavy model at rest, so that the window stays quick to answer.
constexpr std::size_t trianglesAGo = 30000;

} // namespace

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
    const int split = int(wipe_.x(width()) * devicePixelRatio());
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
