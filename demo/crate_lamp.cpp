// A lamp in a crate, a block wide, drawn a little too large and off its place, with marks from memory.
#include "demo_data.h"
#include "solids.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::demo {

Model crateLamp() {
    Model lamp = withHarbourMaterials();
    lamp.name = "crate-lamp";
    lamp.madeFor = "3.2";
    // Ten percent too large, off the middle, as it lay in the drawing.
    const glm::dmat4 wrong = glm::scale(glm::translate(glm::dmat4(1.0), {0.35, 0.2, -0.6}), glm::dvec3(1.1));
    const int root = addNode(lamp, "lamp export", -1, wrong);
    Solids crate;
    crate.wear(Wood);
    for (const double side : {-1.0, 1.0}) {
        for (const double y : {0.05, 0.95})
            crate.box({0, y, side * 0.45}, {0.5, 0.05, 0.05}).box({side * 0.45, y, 0}, {0.05, 0.05, 0.4});
        for (const double z : {-1.0, 1.0}) crate.box({side * 0.45, 0.5, z * 0.45}, {0.05, 0.4, 0.05});
    }
    for (int i = 0; i < 4; ++i) crate.box({-0.3 + 0.2 * i, 0.04, 0}, {0.08, 0.03, 0.4});
    for (const double side : {-1.0, 1.0})
        crate.bar({side * 0.45, 0.1, -0.4}, {side * 0.45, 0.9, 0.4}, 0.025, 8)
            .bar({-0.4, 0.1, side * 0.45}, {0.4, 0.9, side * 0.45}, 0.025, 8);
    addNode(lamp, "crate", root, glm::dmat4(1.0), crate.take("crate"));
    Solids light;
    light.wear(Iron)
        .turned({{0, 0.07}, {0.2, 0.07}, {0.2, 0.12}, {0.14, 0.16}, {0, 0.16}}, {0, 0, 0}, 1, 24)
        .turned({{0, 0.8}, {0.05, 0.78}, {0.2, 0.68}, {0.17, 0.66}, {0, 0.66}}, {0, 0, 0}, 1, 24);
    for (int i = 0; i < 4; ++i) {
        const double a = glm::half_pi<double>() * (i + 0.5);
        light.bar({0.16 * std::cos(a), 0.12, 0.16 * std::sin(a)},
                  {0.16 * std::cos(a), 0.68, 0.16 * std::sin(a)}, 0.014, 8);
    }
    light.bar({0, 0.78, 0}, {0, 0.95, 0}, 0.02, 8);
    light.wear(Glass).turned({{0, 0.16}, {0.11, 0.16}, {0.13, 0.38}, {0.1, 0.66}, {0, 0.66}}, {0, 0, 0}, 1,
                             24);
    addNode(lamp, "lamp", root, glm::dmat4(1.0), light.take("lamp"));
    lamp.nodes[std::size_t(root)].marks = {{3, "carryme"}, {4, "Wired "}};
    return lamp;
}

} // namespace zl::demo
