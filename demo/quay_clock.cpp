// A clock with four faces on an iron post.
#include "demo_data.h"
#include "solids.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::demo {

Model quayClock() {
    Model clock = withHarbourMaterials();
    clock.name = "quay-clock";
    Solids post;
    post.wear(Iron)
        .box({0, 0.1, 0}, {0.3, 0.1, 0.3})
        .turned({{0.2, 0.2}, {0.22, 0.26}, {0.13, 0.42}, {0.09, 0.5}, {0.075, 2.5}, {0.11, 2.56}, {0, 2.56}},
                {0, 0, 0}, 1, 24);
    for (const double y : {0.9, 1.6, 2.3})
        post.turned({{0.085, y - 0.03}, {0.115, y}, {0.085, y + 0.03}}, {0, 0, 0}, 1, 24);
    for (int i = 0; i < 4; ++i) { // scrolls that carry the case
        const double a = glm::half_pi<double>() * i + glm::quarter_pi<double>(), x = std::cos(a),
                     z = std::sin(a);
        post.rope({{0.08 * x, 2.2, 0.08 * z},
                   {0.2 * x, 2.3, 0.2 * z},
                   {0.36 * x, 2.45, 0.36 * z},
                   {0.4 * x, 2.58, 0.4 * z}},
                  0.022, 8);
    }
    addNode(clock, "post", -1, glm::dmat4(1.0), post.take("post"));
    Solids head;
    head.wear(Wood).box({0, 2.95, 0}, {0.33, 0.37, 0.33});
    head.wear(Iron).box({0, 2.58, 0}, {0.4, 0.03, 0.4}).box({0, 3.33, 0}, {0.42, 0.03, 0.42});
    for (const double x : {-1.0, 1.0})
        for (const double z : {-1.0, 1.0}) head.box({0.37 * x, 2.95, 0.37 * z}, {0.035, 0.36, 0.035});
    head.wear(Cloth).turned({{0.46, 3.36}, {0.4, 3.42}, {0.08, 3.72}, {0.05, 3.74}, {0, 3.74}}, {0, 0, 0}, 1,
                            4);
    head.wear(Iron).turned({{0.03, 3.72}, {0.06, 3.79}, {0.03, 3.86}, {0, 3.98}}, {0, 0, 0}, 1, 12);
    addNode(clock, "case", -1, glm::dmat4(1.0), head.take("case"));
    Solids face;
    face.wear(Glass).turned({{0.28, 0.335}, {0.28, 0.35}, {0, 0.36}}, {0, 0, 0}, 2, 32);
    face.wear(Iron).ring({0, 0, 0.35}, {0.28, 0, 0}, {0, 0.28, 0}, 0.016, 24);
    face.box({0, 0.09, 0.372}, {0.012, 0.1, 0.004}).box({0.07, -0.03, 0.372}, {0.075, 0.014, 0.004}, 0, 0);
    for (int i = 0; i < 12; ++i) {
        const double a = glm::two_pi<double>() * i / 12;
        face.box({0.235 * std::sin(a), 0.235 * std::cos(a), 0.366}, {0.012, 0.012, 0.005});
    }
    const Mesh one = face.take("face");
    for (int i = 0; i < 4; ++i)
        addNode(
            clock, "face", -1,
            glm::rotate(glm::translate(glm::dmat4(1.0), {0, 2.95, 0}), glm::half_pi<double>() * i, {0, 1, 0}),
            one);
    return clock;
}

} // namespace zl::demo
