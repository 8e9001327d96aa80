// Shapes of the small things that are handed round in kits.
#include "saltglass_items.h"

#include "demo_data.h"

#include <glm/gtc/constants.hpp>

namespace zl::demo {

namespace {

constexpr double circle = glm::two_pi<double>();

} // namespace

void jar(Solids& s, double radius, double tall) {
    s.wear(Glass).turned({{0, 0},
                          {0.8 * radius, 0},
                          {radius, 0.12 * tall},
                          {radius, 0.7 * tall},
                          {0.7 * radius, 0.86 * tall},
                          {0.7 * radius, 0.95 * tall},
                          {0, 0.95 * tall}},
                         {0, 0, 0}, 1, 28);
    s.wear(Wood).turned({{0, 0.93 * tall}, {0.66 * radius, 0.93 * tall}, {0.6 * radius, tall}, {0, tall}},
                        {0, 0, 0}, 1, 24);
}

void stormLamp(Solids& s) {
    s.wear(Iron)
        .turned({{0, 0}, {0.12, 0}, {0.13, 0.03}, {0.1, 0.06}, {0.1, 0.1}, {0, 0.1}}, {0, 0, 0}, 1, 24)
        .turned({{0, 0.4}, {0.03, 0.4}, {0.05, 0.36}, {0.12, 0.31}, {0.12, 0.29}, {0, 0.29}}, {0, 0, 0}, 1,
                24);
    for (int i = 0; i < 4; ++i) {
        const double a = circle * i / 4;
        s.bar({0.1 * std::cos(a), 0.09, 0.1 * std::sin(a)}, {0.1 * std::cos(a), 0.3, 0.1 * std::sin(a)},
              0.008);
    }
    for (int i = 0; i < 8; ++i) { // the handle
        const double a = glm::pi<double>() * i / 8, b = glm::pi<double>() * (i + 1) / 8;
        s.bar({0.09 * std::cos(a), 0.38 + 0.13 * std::sin(a), 0},
              {0.09 * std::cos(b), 0.38 + 0.13 * std::sin(b), 0}, 0.006);
    }
    s.wear(Glass).turned({{0, 0.1}, {0.07, 0.1}, {0.085, 0.19}, {0.06, 0.29}, {0, 0.29}}, {0, 0, 0}, 1, 24);
}

void crabBasket(Solids& s) {
    s.wear(Wood).turned({{0, 0}, {0.26, 0}, {0.26, 0.025}, {0, 0.025}}, {0, 0, 0}, 1, 28);
    const auto radius = [](double h) { return 0.25 - 0.5 * h * h; };
    for (int i = 0; i < 14; ++i) {
        const double a = circle * i / 14, c = std::cos(a), n = std::sin(a);
        for (int k = 0; k < 4; ++k) {
            const double low = 0.02 + 0.1 * k, high = low + 0.1;
            s.bar({radius(low) * c, low, radius(low) * n}, {radius(high) * c, high, radius(high) * n}, 0.009,
                  6);
        }
    }
    for (int k = 1; k <= 4; ++k)
        for (int i = 0; i < 14; ++i) {
            const double h = 0.02 + 0.1 * k, r = radius(h) + 0.004, a = circle * i / 14,
                         b = circle * (i + 1) / 14;
            s.wear(k == 4 ? Iron : Cloth)
                .bar({r * std::cos(a), h, r * std::sin(a)}, {r * std::cos(b), h, r * std::sin(b)}, 0.012, 6);
        }
}

void bollard(Solids& s) {
    s.wear(Iron).turned({{0, 0},
                         {0.2, 0},
                         {0.2, 0.05},
                         {0.13, 0.08},
                         {0.11, 0.3},
                         {0.12, 0.4},
                         {0.19, 0.46},
                         {0.18, 0.53},
                         {0.1, 0.57},
                         {0, 0.58}},
                        {0, 0, 0}, 1, 32);
    for (int i = 0; i < 30; ++i) { // two turns of rope
        const double a = 2 * circle * i / 30, b = 2 * circle * (i + 1) / 30;
        s.wear(Cloth).bar({0.135 * std::cos(a), 0.2 + 0.002 * i, 0.135 * std::sin(a)},
                          {0.135 * std::cos(b), 0.202 + 0.002 * i, 0.135 * std::sin(b)}, 0.02, 8);
    }
}

void netFloat(Solids& s) {
    std::vector<glm::dvec2> ball;
    for (int i = 0; i <= 12; ++i) {
        const double a = glm::pi<double>() * i / 12;
        ball.emplace_back(0.14 * std::sin(a), 0.14 - 0.14 * std::cos(a));
    }
    s.wear(Fruit).turned(ball, {0, 0, 0}, 1, 28);
    s.wear(Cloth).turned({{0.12, 0.12}, {0.147, 0.12}, {0.147, 0.16}, {0.12, 0.16}}, {0, 0, 0}, 1, 28);
    s.wear(Iron).turned({{0, 0.27}, {0.03, 0.27}, {0.03, 0.31}, {0, 0.31}}, {0, 0, 0}, 1, 16);
}

void stool(Solids& s, double tall, int legs) {
    s.wear(Wood).turned({{0, tall - 0.05}, {0.17, tall - 0.05}, {0.18, tall - 0.02}, {0.16, tall}, {0, tall}},
                        {0, 0, 0}, 1, 28);
    for (int i = 0; i < legs; ++i) {
        const double a = circle * i / legs, c = std::cos(a), n = std::sin(a);
        s.bar({0.11 * c, tall - 0.04, 0.11 * n}, {0.19 * c, 0, 0.19 * n}, 0.018);
    }
}

void sign(Solids& s) {
    s.wear(Wood)
        .box({0, 0.42, 0.13}, {0.26, 0.4, 0.012}, 0, 0.28)
        .box({0, 0.42, -0.13}, {0.26, 0.4, 0.012}, 0, -0.28);
    s.wear(Iron).bar({-0.25, 0.8, 0}, {0.25, 0.8, 0}, 0.014);
    s.wear(Cloth).box({0, 0.5, 0.137}, {0.2, 0.2, 0.008}, 0, 0.28);
}

void scales(Solids& s) {
    s.wear(Iron).turned({{0, 0}, {0.14, 0}, {0.12, 0.03}, {0.02, 0.05}, {0.015, 0.42}, {0, 0.42}}, {0, 0, 0},
                        1, 24);
    s.bar({-0.24, 0.42, 0}, {0.24, 0.42, 0}, 0.012);
    for (const double side : {-0.24, 0.24}) {
        for (int i = 0; i < 3; ++i) {
            const double a = circle * i / 3;
            s.bar({side, 0.42, 0}, {side + 0.09 * std::cos(a), 0.2, 0.09 * std::sin(a)}, 0.004, 6);
        }
        s.turned({{0, 0.17}, {0.06, 0.17}, {0.1, 0.2}, {0.095, 0.205}, {0, 0.18}}, {side, 0, 0}, 1, 24);
    }
}

} // namespace zl::demo
