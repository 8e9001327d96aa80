#pragma once
#include "standins/world/shading.h"

#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>
#include <QOpenGLVertexArrayObject>

#include <map>
#include <memory>

namespace zl::app {

/// Draws a stand-in's things by its own shader. Belongs to the context that was current when it was made.
class ShadedPainter : protected QOpenGLFunctions_3_3_Core {
public:
    /// Uploads all items. False, with a reason, when the graphics card does not take the text.
    bool start(const standins::world::Shading& shading, QString* problem);
    void draw(const standins::world::Shading& shading, int item, const glm::mat4& pose,
              const standins::world::Lens& lens);

private:
    struct Uploaded {
        QOpenGLVertexArrayObject array;
        QOpenGLBuffer corners{QOpenGLBuffer::VertexBuffer}, indices{QOpenGLBuffer::IndexBuffer};
        std::vector<std::shared_ptr<QOpenGLTexture>> pictures;
    };
    void upload(const standins::world::ShadedItem& item);

    QOpenGLShaderProgram program_;
    std::vector<std::unique_ptr<Uploaded>> items_;
    std::map<const standins::world::PictureLevels*, std::shared_ptr<QOpenGLTexture>> textures_;
};

} // namespace zl::app
