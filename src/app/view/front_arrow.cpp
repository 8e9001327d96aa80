#include "app/view/front_arrow.h"

namespace zl::app {

FrontArrow::FrontArrow(const geometry::Bounds& bounds, double angle) {
    const glm::dvec3 way(std::sin(angle), 0, std::cos(angle)), size = bounds.size(), c = bounds.centre();
    const double reach = 0.5 * std::max(size.x, size.z), step = 0.28 * std::max(reach, 0.1 * size.y);
    from = glm::dvec3(c.x, 0.002 * std::max(reach, 1e-6), c.z) + way * (reach * 1.15);
    to = from + way * (2 * step);
}

Handle FrontArrow::handle(const geometry::Bounds& bounds) const {
    Handle handle;
    handle.id = handle.field = "front";
    handle.at = to;
    handle.centre = {bounds.centre().x, to.y, bounds.centre().z};
    handle.way = Handle::Way::Around;
    handle.atEnd = true;
    return handle;
}

std::vector<glm::vec3> FrontArrow::triangles() const {
    const glm::dvec3 half = (to - from) / 2.0, side(half.z, 0, -half.x), neck = to - half;
    const auto at = [](const glm::dvec3& v) { return glm::vec3(v); };
    const glm::vec3 left = at(from - side * 0.16), right = at(from + side * 0.16),
                    neckRight = at(neck + side * 0.16);
    return {left,
            right,
            neckRight,
            left,
            neckRight,
            at(neck - side * 0.16),
            at(neck - side * 0.5),
            at(neck + side * 0.5),
            at(to)};
}

} // namespace zl::app
