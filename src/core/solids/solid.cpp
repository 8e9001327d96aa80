#include "core/solids/solid.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <cmath>

namespace zl::solids {

void demandShape(const Shape& shape) {
    const auto demand = [](const char* name, double value, const Range& range) {
        if (!(value >= range.least && value <= range.most))
            throw Error(fmt::format("\"{}\" of a solid is {}", name, value), {},
                        fmt::format("It goes from {} to {}.", range.least, range.most));
    };
    for (int k = 0; k < 3; ++k) demand("size", shape.size[k], sizes);
    demand("gap-from", shape.gapFrom, {-360, 360});
    demand("gap", shape.gap, gaps);
    demand("hollow", shape.hollow, hollows);
    demand("thick", shape.thick, thicknesses);
    for (int k = 0; k < 2; ++k) {
        demand("foot", shape.foot[k], widths);
        demand("head", shape.head[k], widths);
        demand("lean", shape.lean[k], leans);
    }
    demand("twist", shape.twist, twists);
    constexpr double flat = 1e-3;
    for (int k = 0; k < 2; ++k) {
        const bool edge = shape.kind == Kind::Wedge && k == 1; // a wedge's head is one already
        if (shape.foot[k] < flat && (shape.head[k] < flat || edge))
            throw Error("both ends of a solid are narrowed to nothing", {}, "Give one of them a width.");
    }
}

} // namespace zl::solids
