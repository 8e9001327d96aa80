#pragma once
#include "app/view/floor_shadow.h"

#include "core/model/model.h"

#include <QColor>
#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>
#include <QOpenGLVertexArrayObject>

#include <memory>
#include <vector>

namespace zl::app {

/// A colour as the shaders take it.
inline glm::vec4 glColour(const QColor& c, float alpha = 1) {
    return {c.redF(), c.greenF(), c.blueF(), alpha};
}

/// A corner as the graphics card gets it. `heat` is 0–1 on the deviation scale, or below 0.
struct GlCorner {
    glm::vec3 position, normal;
    glm::vec2 uv;
    float heat = -1;
};

/// Triangles ready to be uploaded, made beside the window's thread.
struct GlGeometry {
    std::vector<GlCorner> corners;
    std::vector<std::uint32_t> indices;
    struct Range {
        std::size_t first, count; ///< of indices
        glm::vec4 colour{0.72f, 0.60f, 0.40f, 1};
        std::shared_ptr<const Pixels> picture;
        Sampler sampler;
        int material = -1; ///< of the model
        bool lit = false;  ///< the picture is what is seen, whatever light there is
    };
    std::vector<Range> ranges;
};

/// Triangles on the graphics card; belongs to the context that was current when it was made.
class GlMesh {
public:
    explicit GlMesh(const GlGeometry& geometry);

    std::size_t triangles() const { return indexCount_ / 3; }
    /// Other places and normals for the same corners.
    void moveCorners(const std::vector<GlCorner>& corners);

private:
    friend class GlPainter;
    struct Range {
        std::size_t first, count;
        glm::vec4 colour;
        std::shared_ptr<QOpenGLTexture> texture;
        int material;
        bool lit;
    };
    QOpenGLVertexArrayObject array_;
    QOpenGLBuffer corners_{QOpenGLBuffer::VertexBuffer}, indices_{QOpenGLBuffer::IndexBuffer};
    std::vector<Range> ranges_;
    std::size_t indexCount_ = 0;
};

/// How faces look: as they will be, or so that their shape or their groups are seen better.
enum class Faces { Pictured, Smooth, Flat, Groups };

/// Draws meshes, lines and the background with one small set of shaders.
class GlPainter : protected QOpenGLFunctions_3_3_Core {
public:
    /// Needs a current context. False, with a reason, when OpenGL 3.3 is not to be had.
    bool start(QString* problem);

    struct Look {
        glm::mat4 toClip{1.0f};
        glm::mat4 placing{1.0f};
        glm::vec3 eye{0.0f};
        glm::vec3 above{1.0f}, below{0.72f}; ///< light from the sky and from the floor
        float gloss = 0.15f;
        bool wire = false;
        bool heat = false;
        Faces faces = Faces::Pictured;
        glm::vec4 tint{0, 0, 0, 0}; ///< mixed over the colour by its alpha
        float opacity = 1;
        glm::vec4 grid{0}; ///< edges of blocks, drawn on: where they begin, and how far apart; 0 for none
    };
    /// Draws indices first…first+count of the mesh (all by default).
    void draw(GlMesh& mesh, const Look& look, std::size_t first = 0, std::size_t count = ~std::size_t(0));
    void lines(const std::vector<glm::vec3>& ends, const glm::mat4& toClip, const glm::vec4& colour,
               float width = 1);
    /// With `stripes` as bands, so many pixels apart, that run as `hatch` says (contact::Hatch; as a rule
    /// they lean).
    void triangles(const std::vector<glm::vec3>& corners, const glm::mat4& toClip, const glm::vec4& colour,
                   float stripes = 0, int hatch = 2);
    void background(const QColor& top, const QColor& bottom);
    /// The shadow on the floor, in `colour` where there is no light at all. Keeps its picture while it is
    /// asked for the same one, which must stay where it is.
    void shade(const FloorShadow& shadow, const glm::mat4& toClip, const glm::vec4& colour);
    /// Lets go of what belongs to the context, which must be current.
    void end() { shadowPicture_.reset(); }
    void forgetShadow() { shadowOf_ = nullptr; }

private:
    void flat(unsigned mode, const std::vector<glm::vec3>& points, const glm::mat4& toClip,
              const glm::vec4& colour, float stripes = 0, int hatch = 2);
    QOpenGLShaderProgram solid_, flat_, sky_, shadow_;
    std::unique_ptr<QOpenGLTexture> shadowPicture_;
    const FloorShadow* shadowOf_ = nullptr;
    QOpenGLVertexArrayObject flatArray_;
    QOpenGLBuffer flatBuffer_{QOpenGLBuffer::VertexBuffer};
};

} // namespace zl::app
