// What the Saltglass catalogue has to wear.
#include "saltglass_worn.h"

#include "demo_data.h"

#include <glm/gtc/constants.hpp>

namespace zl::demo {

namespace {

constexpr double turn = glm::two_pi<double>();

} // namespace

Shape hat(double brim, double tall) {
    return [=](Solids& s) {
        s.wear(Fruit).turned({{0.0, 0.19},
                              {0.115, 0.19},
                              {brim, 0.16},
                              {brim, 0.17},
                              {0.12, 0.2},
                              {0.11, 0.2 + 0.7 * tall},
                              {0.06, 0.2 + tall},
                              {0, 0.2 + tall}},
                             {0, 0, 0.01}, 1, 28);
        s.wear(Cloth).turned({{0.121, 0.205}, {0.124, 0.21}, {0.122, 0.235}, {0.119, 0.24}}, {0, 0, 0.01}, 1,
                             28);
    };
}

void shoulderNet(Solids& s) {
    s.wear(Cloth);
    for (int strand = 0; strand < 5; ++strand) {
        const double shift = 0.035 * (strand - 2);
        s.ring({0.02 + shift, 0.02, 0.01}, glm::dvec3(0.21, 0.27, 0), glm::dvec3(0, 0.03, 0.19), 0.009, 28);
    }
    for (int i = 0; i < 20; ++i) {
        const double a = turn * i / 20;
        const glm::dvec3 at = glm::dvec3(0.02, 0.02, 0.01) + glm::dvec3(0.21, 0.27, 0) * std::cos(a) +
                              glm::dvec3(0, 0.03, 0.19) * std::sin(a);
        s.bar(at - glm::dvec3(0.075, 0, 0), at + glm::dvec3(0.075, 0, 0), 0.006, 6);
    }
    s.wear(Wood);
    for (const double side : {-1.0, 1.0})
        s.bar({0.2 * side, 0.27 * side, 0.0}, {0.26 * side, 0.29 * side, 0}, 0.02, 10);
}

Shape oilskin(double girth, double hem) {
    return [=](Solids& s) {
        s.wear(Fruit).turned({{0.07, 0.3},
                              {0.1, 0.28},
                              {0.86 * girth, 0.2},
                              {0.9 * girth, 0.0},
                              {girth, -0.25},
                              {1.1 * girth, hem},
                              {1.06 * girth, hem},
                              {0.94 * girth, -0.25},
                              {0.84 * girth, 0.0},
                              {0.8 * girth, 0.19},
                              {0.07, 0.27}},
                             {0, 0, 0}, 1, 32);
        s.wear(Iron);
        for (int i = 0; i < 4; ++i)
            s.turned({{0.012, 0}, {0.012, 0.01}, {0, 0.01}}, {0.0, 0.12 - 0.13 * i, 0.92 * girth + 0.013 * i},
                     2, 12);
    };
}

Shape armBasket(int filling) {
    return [=](Solids& s) {
        const double drop = -0.3;
        s.wear(Wood).turned({{0, drop},
                             {0.1, drop},
                             {0.15, drop + 0.13},
                             {0.14, drop + 0.13},
                             {0.09, drop + 0.02},
                             {0, drop + 0.02}},
                            {0, 0, 0.12}, 1, 26);
        std::vector<glm::dvec3> handle;
        for (int i = 0; i <= 12; ++i)
            handle.emplace_back(0.145 * std::cos(turn / 2 * i / 12),
                                drop + 0.12 + 0.22 * std::sin(turn / 2 * i / 12), 0.12);
        s.rope(handle, 0.01, 8);
        if (filling < 0) return;
        s.wear(filling);
        std::vector<glm::dvec2> ball;
        for (int k = 0; k <= 8; ++k)
            ball.emplace_back(0.05 * std::sin(turn / 2 * k / 8), 0.05 - 0.05 * std::cos(turn / 2 * k / 8));
        for (int i = 0; i < 6; ++i)
            s.turned(ball,
                     {0.075 * std::cos(turn * i / 6), drop + 0.07, 0.12 + 0.075 * std::sin(turn * i / 6)}, 1,
                     14);
        s.turned(ball, {0, drop + 0.11, 0.12}, 1, 14);
    };
}

Shape handLantern(double size) {
    return [=](Solids& s) {
        const double top = -0.1;
        s.wear(Iron).turned({{0, top},
                             {0.02, top},
                             {0.3 * size, top - 0.25 * size},
                             {0.3 * size, top - 0.3 * size},
                             {0, top - 0.3 * size}},
                            {0, 0, 0}, 1, 20);
        s.turned({{0, top - size},
                  {0.32 * size, top - size},
                  {0.32 * size, top - 0.9 * size},
                  {0, top - 0.9 * size}},
                 {0, 0, 0}, 1, 20);
        for (int i = 0; i < 4; ++i) {
            const double a = turn * i / 4;
            s.bar({0.27 * size * std::cos(a), top - 0.3 * size, 0.27 * size * std::sin(a)},
                  {0.27 * size * std::cos(a), top - 0.9 * size, 0.27 * size * std::sin(a)}, 0.006, 6);
        }
        s.ring({0, top + 0.02, 0}, {0.03, 0, 0}, {0, 0.03, 0}, 0.005, 14);
        s.wear(Glass).turned({{0, top - 0.9 * size},
                              {0.2 * size, top - 0.9 * size},
                              {0.24 * size, top - 0.6 * size},
                              {0.18 * size, top - 0.3 * size},
                              {0, top - 0.3 * size}},
                             {0, 0, 0}, 1, 20);
    };
}

Shape belt(double girth) {
    return [=](Solids& s) {
        s.wear(Cloth).turned(
            {{girth, -0.03}, {girth + 0.012, -0.03}, {girth + 0.012, 0.03}, {girth, 0.03}, {girth, -0.03}},
            {0, 0.04, 0}, 1, 32);
        s.wear(Iron).box({0, 0.04, girth + 0.015}, {0.035, 0.03, 0.008});
        for (int i = 0; i < 3; ++i) s.wear(Wood).box({-0.1 - 0.05 * i, 0, girth * 0.8}, {0.016, 0.06, 0.016});
    };
}

Shape satchel(double wide) {
    return [=](Solids& s) {
        s.wear(Cloth).box({0.22, -0.32, 0.02}, {0.05, 0.12, wide / 2});
        s.wear(Wood).box({0.275, -0.28, 0.02}, {0.008, 0.08, wide / 2});
        s.wear(Cloth);
        s.ring({0.05, 0.0, 0.01}, glm::dvec3(0.19, -0.26, 0), glm::dvec3(0, 0.02, 0.18), 0.012, 26);
    };
}

Shape collar(double radius) {
    return [=](Solids& s) {
        s.wear(Fruit).turned(
            {{radius, -0.02}, {radius + 0.01, -0.02}, {radius + 0.01, 0.02}, {radius, 0.02}, {radius, -0.02}},
            {0, 0, 0}, 1, 24);
        s.wear(Iron).turned({{0, -0.05}, {0.02, -0.04}, {0.015, -0.015}, {0, -0.01}}, {0, 0, radius + 0.01},
                            1, 14);
    };
}

} // namespace zl::demo
