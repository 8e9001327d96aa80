#include "core/model/axes.h"

namespace zl {

glm::dvec3 axisNamed(std::string_view name) {
    glm::dvec3 axis(0.0);
    if (name.size() != 2 || (name[0] != '+' && name[0] != '-')) return axis;
    const int which = name[1] - 'X';
    if (which >= 0 && which < 3) axis[which] = name[0] == '+' ? 1 : -1;
    return axis;
}

std::string_view usualFront(Up up) {
    return up == Up::Y ? "+Z" : "-Y";
}

glm::dmat4 worldToAxes(Up up, std::string_view front) {
    const glm::dvec3 y = up == Up::Y ? glm::dvec3(0, 1, 0) : glm::dvec3(0, 0, 1), z = axisNamed(front);
    const glm::dvec3 x = glm::cross(y, z);
    return {glm::dvec4(x, 0), glm::dvec4(y, 0), glm::dvec4(z, 0), glm::dvec4(0, 0, 0, 1)};
}

} // namespace zl
