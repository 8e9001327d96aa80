#include "core/steps/turn.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

namespace {

/// Rotation in the plane of axes `a` and `b` with quarter turns free of rounding.
glm::dmat4 rotation(int a, int b, double angle) {
    double c = std::cos(angle), s = std::sin(angle);
    if (std::abs(c) < 1e-12) c = 0, s = s > 0 ? 1 : -1;
    if (std::abs(s) < 1e-12) s = 0, c = c > 0 ? 1 : -1;
    glm::dmat4 m(1.0);
    m[a][a] = c, m[a][b] = s;
    m[b][a] = -s, m[b][b] = c;
    return m;
}

} // namespace

Model Turn::apply(const Model& in, StepContext& context) const {
    context.note(fmt::format("turned by {}°, {}°, {}°", showNumber(glm::degrees(aboutX)),
                             showNumber(glm::degrees(aboutY)), showNumber(glm::degrees(aboutZ))));
    return moved(in, rotation(0, 1, aboutZ) * rotation(2, 0, aboutY) * rotation(1, 2, aboutX));
}

} // namespace zl::steps
