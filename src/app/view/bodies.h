#pragma once
#include "app/view/gl_painter.h"

#include <QString>

namespace zl::app {

/// The bodies that physics uses, over the piece: one in the colour of colliders, several each in a colour,
/// with stripes and a number of its own, and drawn apart when asked.
class Bodies {
public:
    void set(const std::vector<Collider>& colliders);
    /// How far they are moved from the middle of all, as a share of their distance from it.
    void setApart(float apart);
    bool empty() const { return bodies_.empty(); }

    enum class Drawn { Filled, Outlines };
    void draw(GlPainter& painter, const glm::mat4& toClip, QOpenGLFunctions& gl, Drawn drawn) const;

    struct Number {
        glm::vec3 at;
        QString text;
        QColor colour;
    };
    /// What tells several from one another; none for one.
    std::vector<Number> numbers() const;

private:
    struct Body {
        std::vector<glm::vec3> corners, edges; ///< in the world, three and two each
        glm::vec3 middle;
    };
    glm::mat4 placed(const Body& body, const glm::mat4& toClip) const;

    std::vector<Body> bodies_;
    glm::vec3 middle_{0};
    float apart_ = 0;
};

} // namespace zl::app
