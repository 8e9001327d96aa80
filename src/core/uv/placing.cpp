#include "core/uv/placing.h"

#include <cmath>

namespace zl::uv {

namespace {

glm::dmat3 moveBy(glm::dvec2 by) {
    glm::dmat3 m(1.0);
    m[2] = glm::dvec3(by, 1);
    return m;
}

glm::dmat3 scaleBy(glm::dvec2 by) {
    return {glm::dvec3(by.x, 0, 0), glm::dvec3(0, by.y, 0), glm::dvec3(0, 0, 1)};
}

} // namespace

glm::dmat3 uvMapOf(const Placing& placing, glm::dvec2 centre, double aspect) {
    const double c = std::cos(placing.turn), s = std::sin(placing.turn);
    // Rows count downward: a turn that is counter-clockwise to the eye is this one.
    const glm::dmat3 turn{glm::dvec3(c, -s, 0), glm::dvec3(s, c, 0), glm::dvec3(0, 0, 1)};
    const glm::dmat3 picture = moveBy(centre + placing.offset) * scaleBy({1 / aspect, 1}) * turn *
                               scaleBy({aspect, 1}) * scaleBy(placing.scale) * moveBy(-centre);
    return glm::inverse(picture);
}

} // namespace zl::uv
