#include "core/blocks/lattice.h"

#include "core/base/error.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::blocks {

namespace {

constexpr double even = 1e-4; ///< of a block: what sticks out by less does not need another one
constexpr double longestSide = 100'000;

int blocksFor(double length) {
    if (!(length < longestSide))
        throw Error("that is more blocks than can be worked with", {}, "Make it smaller, or blocks larger.");
    return std::max(1, int(std::ceil(length - even)));
}

/// As many as it takes so that one is in the middle.
int oddFor(double length) {
    return 2 * int(std::ceil(std::min(length, longestSide) / 2 - 0.5 - even)) + 1;
}

} // namespace

Lattice latticeFor(const geometry::Bounds& bounds, double edge, const Size& size, double plane) {
    glm::dvec3 extent = bounds.size(), middle = bounds.centre();
    middle.x = plane;
    extent.x = 2 * std::max(bounds.max.x - plane, plane - bounds.min.x);
    Lattice out;
    out.edge = edge;
    double wanted = size.value;
    // An even number across leaves none for the centre line.
    if (size.by == Size::By::Blocks && size.axis == 0) wanted = 2 * std::floor((wanted - 1) / 2) + 1;
    const double along = extent[size.axis];
    if (size.by != Size::By::Factor && !(along > 0))
        throw Error("the model has no extent along that axis to go by", {}, "Choose another axis.");
    out.factor = size.by == Size::By::Factor   ? size.value
                 : size.by == Size::By::Metres ? size.value / along
                                               : wanted * edge / along;
    if (!(out.factor > 0) || !std::isfinite(out.factor))
        throw Error("that is no size", {}, "Give it more than nothing.");
    const glm::dvec3 grown = extent * out.factor / edge;
    out.size = {std::max(1, oddFor(grown.x)), blocksFor(grown.y), blocksFor(grown.z)};
    cellsIn(out.size); // throws
    const glm::dvec3 centre = middle * out.factor / edge;
    const glm::dvec3 corner{centre.x - out.size.x / 2.0, bounds.min.y * out.factor / edge,
                            centre.z - out.size.z / 2.0};
    out.first = {-(out.size.x / 2), 0, 0};
    out.origin = (corner - glm::dvec3(out.first) + glm::dvec3(0.5, 0, 0)) * edge;
    out.toBlocks = glm::scale(glm::translate(glm::dmat4(1), -corner), glm::dvec3(out.factor / edge));
    return out;
}

} // namespace zl::blocks
