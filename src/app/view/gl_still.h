#pragma once
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>
#include <QSize>

#include <glm/glm.hpp>

#include <memory>

namespace zl::app {

/// A picture at rest: drawn at several times its size in as many goes as it takes, then brought down to
/// smooth edges with a gentle shade in crevices (ambient occlusion in screen space, by the obscurance
/// estimator of McGuire, Osman, Bukowski and Hennessy 2011). Belongs to the context that was current when it
/// was made.
class GlStill : protected QOpenGLFunctions_3_3_Core {
public:
    GlStill(QSize size, int times);
    ~GlStill();

    QSize size() const { return size_; }
    /// What is drawn next goes into the large picture, `drawn()` pixels wide and high.
    void bind();
    QSize drawn() const { return size_ * times_; }
    /// Makes rows of the picture, from below, of what was drawn: some at a time, so that each go is short.
    /// `reach` is how far crevices darken, in the scene's unit; 0 for none.
    void finish(const glm::mat4& projection, float reach, int firstRow, int rows);
    /// Copies colours and depths to the framebuffer.
    void copyTo(unsigned framebuffer);

private:
    QSize size_;
    int times_;
    bool fine_ = false;
    unsigned large_ = 0, colour_ = 0, depth_ = 0;
    QOpenGLShaderProgram program_;
    QOpenGLVertexArrayObject array_;
    std::unique_ptr<QOpenGLFramebufferObject> done_;
};

} // namespace zl::app
