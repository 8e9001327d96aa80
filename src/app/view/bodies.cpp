#include "app/view/bodies.h"

#include "app/theme.h"
#include "app/view/backdrop.h"

#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

#include <QOpenGLFunctions>

#include <cmath>

namespace zl::app {

namespace {

/// Colours that neighbours in a list do not share, of one lightness: hues a golden angle apart.
QColor colourOf(std::size_t index) {
    const double hue = std::fmod(0.56 + 0.381966 * double(index), 1.0);
    return QColor::fromHslF(hue, 0.55, tokens().paper.lightnessF() > 0.5 ? 0.38 : 0.66);
}

/// Pixels between stripes, so that not the colour alone tells them apart.
float stripesOf(std::size_t index) {
    static constexpr float widths[] = {6, 10, 15, 22};
    return widths[index % 4];
}

} // namespace

void Bodies::set(const std::vector<Collider>& colliders) {
    bodies_.clear();
    geometry::Bounds all;
    for (const Collider& collider : colliders) {
        const Mesh mesh = geometry::transformed(*collider.mesh, collider.placement);
        const auto bounds = geometry::meshBounds(mesh);
        Body body{{}, sharpEdges(mesh.positions, mesh.indices, glm::mat4(1)), glm::vec3(bounds.centre())};
        for (const std::uint32_t v : mesh.indices) body.corners.push_back(mesh.positions[v]);
        all.add(bounds);
        bodies_.push_back(std::move(body));
    }
    middle_ = glm::vec3(all.centre());
}

void Bodies::setApart(float apart) {
    apart_ = apart;
}

glm::mat4 Bodies::placed(const Body& body, const glm::mat4& toClip) const {
    return glm::translate(toClip, apart_ * (body.middle - middle_));
}

void Bodies::draw(GlPainter& painter, const glm::mat4& toClip, QOpenGLFunctions& gl, Drawn drawn) const {
    const bool several = bodies_.size() > 1;
    gl.glDepthMask(GL_FALSE);
    for (std::size_t i = 0; i < bodies_.size(); ++i) {
        const Body& body = bodies_[i];
        const QColor colour = several ? colourOf(i) : tokens().sea;
        const glm::mat4 place = placed(body, toClip);
        if (drawn == Drawn::Outlines) { // thin: a body may be as fine as the piece
            painter.lines(body.edges, place, glColour(colour, several ? 0.9f : 0.5f), 1);
            continue;
        }
        painter.triangles(body.corners, place, glColour(colour, several ? 0.3f : 0.22f),
                          several ? stripesOf(i) : 0);
        painter.lines(body.edges, place, glColour(colour, 0.9f), 2);
        gl.glDisable(GL_DEPTH_TEST); // it may lie inside the model
        painter.lines(body.edges, place, glColour(colour, 0.4f), 1.5f);
        gl.glEnable(GL_DEPTH_TEST);
    }
    gl.glDepthMask(GL_TRUE);
}

std::vector<Bodies::Number> Bodies::numbers() const {
    std::vector<Number> out;
    for (std::size_t i = 0; bodies_.size() > 1 && i < bodies_.size(); ++i)
        out.push_back({bodies_[i].middle + apart_ * (bodies_[i].middle - middle_), QString::number(i + 1),
                       colourOf(i)});
    return out;
}

} // namespace zl::app
