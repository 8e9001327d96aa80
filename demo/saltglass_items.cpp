// The sixty items of the Saltglass catalogue.
#include "saltglass_items.h"

#include "demo_data.h"

#include <glm/gtc/constants.hpp>

namespace zl::demo {

namespace {

constexpr double whole = glm::two_pi<double>();
using Shape = std::function<void(Solids&)>;

/// A bar along a path of points.
void rope(Solids& s, const std::vector<glm::dvec3>& path, double radius, int sides = 8) {
    for (std::size_t i = 0; i + 1 < path.size(); ++i) s.bar(path[i], path[i + 1], radius, sides);
}

/// A ring of bars about `middle`; `wide` and `deep` are its half axes along the directions `u` and `v`.
void ring(Solids& s, glm::dvec3 middle, glm::dvec3 u, glm::dvec3 v, double radius, int parts = 24) {
    std::vector<glm::dvec3> path;
    for (int i = 0; i <= parts; ++i)
        path.push_back(middle + u * std::cos(whole * i / parts) + v * std::sin(whole * i / parts));
    rope(s, path, radius);
}

Shape barrel(double radius, double tall) {
    return [=](Solids& s) {
        s.wear(Wood).turned({{0, 0},
                             {0.86 * radius, 0},
                             {0.97 * radius, 0.25 * tall},
                             {radius, 0.5 * tall},
                             {0.97 * radius, 0.75 * tall},
                             {0.86 * radius, tall},
                             {0.8 * radius, 0.96 * tall},
                             {0, 0.96 * tall}},
                            {0, 0, 0}, 1, 28);
        for (const double at : {0.12, 0.3, 0.7, 0.88})
            s.wear(Iron).turned(
                {{0.9 * radius, (at - 0.03) * tall},
                 {(0.94 + 0.08 * std::sin(at * glm::pi<double>())) * radius, (at - 0.025) * tall},
                 {(0.94 + 0.08 * std::sin(at * glm::pi<double>())) * radius, (at + 0.025) * tall},
                 {0.9 * radius, (at + 0.03) * tall}},
                {0, 0, 0}, 1, 28);
    };
}

Shape crate(double wide, double tall, double deep, bool slatted) {
    return [=](Solids& s) {
        s.wear(Wood).box({0, 0.015, 0}, {wide / 2, 0.015, deep / 2});
        const int slats = slatted ? 3 : 1;
        const double board = slatted ? tall / slats * 0.38 : tall / 2;
        for (int i = 0; i < slats; ++i) {
            const double y = slatted ? tall * (i + 0.5) / slats : tall / 2;
            for (const double side : {-1.0, 1.0}) {
                s.box({0, y, side * deep / 2}, {wide / 2, board, 0.011});
                s.box({side * wide / 2, y, 0}, {0.011, board, deep / 2});
            }
        }
        for (const double x : {-1.0, 1.0})
            for (const double z : {-1.0, 1.0})
                s.wear(Iron).box({x * (wide / 2 - 0.02), tall / 2, z * (deep / 2 - 0.02)},
                                 {0.018, tall / 2, 0.018});
    };
}

Shape bowl(double radius, double tall, int material, int filling) {
    return [=](Solids& s) {
        s.wear(material).turned({{0, 0},
                                 {0.6 * radius, 0},
                                 {0.9 * radius, 0.5 * tall},
                                 {radius, tall},
                                 {0.93 * radius, tall},
                                 {0.8 * radius, 0.5 * tall},
                                 {0, 0.2 * tall}},
                                {0, 0, 0}, 1, 28);
        if (filling < 0) return;
        s.wear(filling);
        const double r = 0.34 * radius;
        std::vector<glm::dvec2> ball;
        for (int k = 0; k <= 8; ++k)
            ball.emplace_back(r * std::sin(whole / 2 * k / 8), r - r * std::cos(whole / 2 * k / 8));
        for (int i = 0; i < 6; ++i)
            s.turned(ball,
                     {0.52 * radius * std::cos(whole * i / 6), 0.55 * tall,
                      0.52 * radius * std::sin(whole * i / 6)},
                     1, 14);
        s.turned(ball, {0, 0.8 * tall, 0}, 1, 14);
    };
}

Shape bucket(double radius, double tall, int material) {
    return [=](Solids& s) {
        s.wear(material).turned({{0, 0},
                                 {0.75 * radius, 0},
                                 {radius, tall},
                                 {0.93 * radius, tall},
                                 {0.7 * radius, 0.05 * tall},
                                 {0, 0.05 * tall}},
                                {0, 0, 0}, 1, 28);
        s.wear(Iron);
        std::vector<glm::dvec3> handle;
        for (int i = 0; i <= 10; ++i)
            handle.emplace_back(0.97 * radius * std::cos(whole / 2 * i / 10),
                                0.95 * tall + 0.9 * radius * std::sin(whole / 2 * i / 10), 0);
        rope(s, handle, 0.008, 6);
    };
}

Shape bench(double wide, int seats) {
    return [=](Solids& s) {
        s.wear(Wood).box({0, 0.43, 0}, {wide / 2, 0.022, 0.16});
        for (int i = 0; i <= seats; ++i)
            s.box({(double(i) / seats - 0.5) * (wide - 0.1), 0.2, 0}, {0.03, 0.2, 0.14});
        s.wear(Iron).bar({-wide / 2 + 0.05, 0.14, 0}, {wide / 2 - 0.05, 0.14, 0}, 0.015);
    };
}

Shape coil(double radius, int turns) {
    return [=](Solids& s) {
        s.wear(Cloth);
        std::vector<glm::dvec3> path;
        for (int i = 0; i <= 20 * turns; ++i) {
            const double a = whole * i / 20, r = radius * (1 - 0.02 * double(i % 40) / 40);
            path.emplace_back(r * std::cos(a), 0.03 + 0.052 * i / 20, r * std::sin(a));
        }
        rope(s, path, 0.026, 7);
    };
}

Shape oar(double length) {
    return [=](Solids& s) {
        s.wear(Wood).bar({0, 0.02, -length / 2}, {0, 0.02, 0.25 * length}, 0.02, 12);
        s.box({0, 0.02, 0.38 * length}, {0.075, 0.012, 0.13 * length});
        s.wear(Iron).bar({0, 0.02, -0.1 * length}, {0, 0.02, -0.06 * length}, 0.027, 12);
    };
}

void anchor(Solids& s) {
    s.wear(Iron).bar({0, 0.08, 0}, {0, 0.85, 0}, 0.028, 12).bar({-0.22, 0.72, 0}, {0.22, 0.72, 0}, 0.02, 10);
    std::vector<glm::dvec3> arms;
    for (int i = 0; i <= 12; ++i) {
        const double a = whole / 2 + whole / 2 * i / 12;
        arms.emplace_back(0.32 * std::cos(a), 0.36 + 0.3 * std::sin(a), 0);
    }
    rope(s, arms, 0.026, 10);
    ring(s, {0, 0.91, 0}, {0.06, 0, 0}, {0, 0.06, 0}, 0.013, 16);
    for (const double side : {-1.0, 1.0}) s.box({side * 0.32, 0.4, 0}, {0.05, 0.07, 0.012});
}

Shape buoy(double radius, bool tall) {
    return [=](Solids& s) {
        s.wear(Fruit).turned({{0, 0},
                              {0.7 * radius, 0.1 * radius},
                              {radius, 0.8 * radius},
                              {0.8 * radius, 1.4 * radius},
                              {0.2 * radius, 1.7 * radius},
                              {0, 1.7 * radius}},
                             {0, 0, 0}, 1, 28);
        s.wear(Iron).bar({0, 1.6 * radius, 0}, {0, (tall ? 3.4 : 2.1) * radius, 0}, 0.014);
        if (tall) s.wear(Cloth).box({0.16 * radius + 0.07, 3.1 * radius, 0}, {0.09, 0.06, 0.004});
    };
}

Shape ladder(double tall, int rungs) {
    return [=](Solids& s) {
        s.wear(Wood);
        for (const double x : {-0.18, 0.18}) s.bar({x, 0, 0}, {x, tall, 0}, 0.022, 10);
        for (int i = 0; i < rungs; ++i) {
            const double y = tall * (i + 0.6) / rungs;
            s.bar({-0.18, y, 0}, {0.18, y, 0}, 0.015, 8);
        }
    };
}

Shape lampPost(double tall) {
    return [=](Solids& s) {
        s.wear(Iron).turned({{0, 0},
                             {0.12, 0},
                             {0.1, 0.06},
                             {0.04, 0.14},
                             {0.032, tall - 0.32},
                             {0.08, tall - 0.3},
                             {0.08, tall - 0.27},
                             {0, tall - 0.27}},
                            {0, 0, 0}, 1, 20);
        s.wear(Glass).turned({{0, tall - 0.27}, {0.07, tall - 0.27}, {0.1, tall - 0.06}, {0, tall - 0.06}},
                             {0, 0, 0}, 1, 8);
        s.wear(Iron).turned({{0.12, tall - 0.06}, {0.03, tall}, {0, tall + 0.03}}, {0, 0, 0}, 1, 8);
    };
}

Shape handBell(double radius) {
    return [=](Solids& s) {
        s.wear(Iron).turned({{0, 1.1 * radius},
                             {0.9 * radius, 1.1 * radius},
                             {0.95 * radius, 0},
                             {radius, 0},
                             {0.8 * radius, 0.8 * radius},
                             {0.6 * radius, 1.6 * radius},
                             {0, 1.75 * radius}},
                            {0, 0, 0}, 1, 28);
        s.wear(Wood).bar({0, 1.7 * radius, 0}, {0, 3.1 * radius, 0}, 0.2 * radius, 12);
    };
}

Shape chest(double wide) {
    return [=](Solids& s) {
        s.wear(Wood)
            .box({0, 0.16, 0}, {wide / 2, 0.16, 0.2})
            .turned({{0.2, -wide / 2}, {0.2, wide / 2}}, {0, 0.32, 0}, 0, 24);
        for (const double x : {-0.8, 0.8})
            s.wear(Iron)
                .turned({{0.205, x * wide / 2 - 0.02}, {0.205, x * wide / 2 + 0.02}}, {0, 0.32, 0}, 0, 24)
                .box({x * wide / 2, 0.16, 0}, {0.02, 0.162, 0.205});
        s.box({0, 0.34, 0.205}, {0.04, 0.05, 0.012});
    };
}

Shape cup(double radius, double tall, int material, bool ear) {
    return [=](Solids& s) {
        s.wear(material).turned({{0, 0},
                                 {0.8 * radius, 0},
                                 {radius, tall},
                                 {0.9 * radius, tall},
                                 {0.72 * radius, 0.08 * tall},
                                 {0, 0.08 * tall}},
                                {0, 0, 0}, 1, 26);
        if (ear)
            ring(s, {1.1 * radius, 0.5 * tall, 0}, {0.45 * radius, 0, 0}, {0, 0.3 * tall, 0}, 0.12 * radius,
                 14);
    };
}

void fish(Solids& s) {
    s.wear(Iron).turned({{0, -0.16}, {0.03, -0.13}, {0.055, -0.02}, {0.05, 0.06}, {0.015, 0.14}, {0, 0.14}},
                        {0, 0.055, 0}, 0, 18);
    s.box({0.17, 0.055, 0}, {0.035, 0.045, 0.006}).box({0, 0.115, 0}, {0.05, 0.016, 0.004});
}

// What is worn: about the joint of the bone it hangs on.

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
        ring(s, {0.02 + shift, 0.02, 0.01}, glm::dvec3(0.21, 0.27, 0), glm::dvec3(0, 0.03, 0.19), 0.009, 28);
    }
    for (int i = 0; i < 20; ++i) {
        const double a = whole * i / 20;
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
            handle.emplace_back(0.145 * std::cos(whole / 2 * i / 12),
                                drop + 0.12 + 0.22 * std::sin(whole / 2 * i / 12), 0.12);
        rope(s, handle, 0.01, 8);
        if (filling < 0) return;
        s.wear(filling);
        std::vector<glm::dvec2> ball;
        for (int k = 0; k <= 8; ++k)
            ball.emplace_back(0.05 * std::sin(whole / 2 * k / 8), 0.05 - 0.05 * std::cos(whole / 2 * k / 8));
        for (int i = 0; i < 6; ++i)
            s.turned(ball,
                     {0.075 * std::cos(whole * i / 6), drop + 0.07, 0.12 + 0.075 * std::sin(whole * i / 6)},
                     1, 14);
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
            const double a = whole * i / 4;
            s.bar({0.27 * size * std::cos(a), top - 0.3 * size, 0.27 * size * std::sin(a)},
                  {0.27 * size * std::cos(a), top - 0.9 * size, 0.27 * size * std::sin(a)}, 0.006, 6);
        }
        ring(s, {0, top + 0.02, 0}, {0.03, 0, 0}, {0, 0.03, 0}, 0.005, 14);
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
        ring(s, {0.05, 0.0, 0.01}, glm::dvec3(0.19, -0.26, 0), glm::dvec3(0, 0.02, 0.18), 0.012, 26);
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

} // namespace

std::vector<Item> saltglassItems() {
    const std::string quay = "Quay set", fair = "Harvest fair", night = "Night market",
                      others = "Others' work";
    const std::string tamsin = "Tamsin Reed", odd = "Odd Fennel", mira = "Mira Quill";
    return {
        {"quay-fishBarrel", "Fish barrel", quay, barrel(0.28, 0.72)},
        {"quay-rainBarrel", "Rain barrel", quay, barrel(0.34, 0.95)},
        {"quay-herringKeg", "Herring keg", quay, barrel(0.17, 0.36)},
        {"quay-slattedCrate", "Slatted crate", quay, crate(0.6, 0.34, 0.42, true)},
        {"quay-deepCrate", "Deep crate", quay, crate(0.55, 0.5, 0.55, false)},
        {"quay-flatCrate", "Flat crate", quay, crate(0.7, 0.16, 0.45, true)},
        {"quay-crabBasket", "Crab basket", quay, crabBasket},
        {"quay-mooringBollard", "Mooring bollard", quay, bollard},
        {"quay-netFloat", "Net float", quay, netFloat},
        {"quay-netMendersStool", "Net mender's stool", quay, [](Solids& s) { stool(s); }},
        {"quay-ropeCoil", "Coil of rope", quay, coil(0.22, 4)},
        {"quay-towCoil", "Coil of tow rope", quay, coil(0.34, 6)},
        {"quay-longOar", "Long oar", quay, oar(2.6)},
        {"quay-shortOar", "Short oar", quay, oar(1.6)},
        {"quay-smallAnchor", "Small anchor", quay, anchor},
        {"quay-pickUpBuoy", "Pick-up buoy", quay, buoy(0.2, false)},
        {"quay-markerBuoy", "Marker buoy", quay, buoy(0.26, true)},
        {"quay-quayLadder", "Quay ladder", quay, ladder(2.1, 7)},
        {"quay-loftLadder", "Loft ladder", quay, ladder(1.4, 5)},
        {"quay-tarBucket", "Tar bucket", quay, bucket(0.15, 0.24, Iron)},
        {"quay-baitBucket", "Bait bucket", quay, bucket(0.17, 0.28, Wood)},
        {"quay-sailorsChest", "Sailor's chest", quay, chest(0.8)},
        {"quay-lowJar", "Low jar", quay, [](Solids& s) { jar(s, 0.14, 0.24); }},
        {"quay-tallJar", "Tall jar", quay, [](Solids& s) { jar(s, 0.11, 0.38); }},
        {"quay-smokedFish", "Smoked fish", quay, fish},
        {"fair-fruitScales", "Fruit scales", fair, scales},
        {"fair-orangeBowl", "Bowl of oranges", fair, bowl(0.2, 0.12, Wood, Fruit)},
        {"fair-emptyBowl", "Empty bowl", fair, bowl(0.22, 0.13, Wood, -1)},
        {"fair-serveDish", "Serving dish", fair, bowl(0.26, 0.07, Iron, -1)},
        {"fair-longBench", "Long bench", fair, bench(1.8, 2)},
        {"fair-shortBench", "Short bench", fair, bench(0.9, 1)},
        {"fair-tallStool", "Tall stool", fair, [](Solids& s) { stool(s, 0.7, 4); }},
        {"fair-prizeChest", "Prize chest", fair, chest(0.5)},
        {"fair-handBell", "Hand bell", fair, handBell(0.07)},
        {"fair-openingBell", "Opening bell", fair, handBell(0.12)},
        {"fair-ciderCup", "Cider cup", fair, cup(0.045, 0.1, Wood, true)},
        {"fair-waterGlass", "Water glass", fair, cup(0.038, 0.11, Glass, false)},
        {"night-foldingSign", "Folding sign", night, sign},
        {"night-stormLamp", "Storm lamp", night, stormLamp},
        {"night-lampPost", "Lamp post", night, lampPost(2.4)},
        {"night-gardenLamp", "Garden lamp", night, lampPost(1.2)},
        {"night-lampGlass", "Lamp glass", night, [](Solids& s) { jar(s, 0.09, 0.22); }},
        {"night-spiceKeg", "Spice keg", night, barrel(0.13, 0.26)},
        {"night-tinCup", "Tin cup", night, cup(0.05, 0.09, Iron, true)},
        {"night-brazier", "Brazier", night, bowl(0.24, 0.2, Iron, Fruit)},
        {"grown-a-stormHat", "Storm hat", quay, hat(0.22, 0.1), "head", "head"},
        {"grown-a-strawHat", "Straw hat", fair, hat(0.26, 0.08), "head", "head"},
        {"grown-a-shoulderNet", "Net over the shoulder", quay, shoulderNet, "shoulder, left", "chest"},
        {"grown-a-satchel", "Letter satchel", night, satchel(0.24), "shoulder, left", "chest"},
        {"grown-a-oilskin", "Oilskin", quay, oilskin(0.22, -0.75), "body", "chest"},
        {"grown-b-oilskin", "Oilskin, broad", quay, oilskin(0.26, -0.8), "body", "chest"},
        {"grown-a-armLantern", "Storm lantern", night, handLantern(0.3), "hand, right", "hand.right"},
        {"grown-b-clothBasket", "Cloth basket", fair, armBasket(Cloth), "arm, left", "forearm.left"},
        {"kid-armBasketOrange", "Orange basket", fair, armBasket(Fruit), "arm, left", "forearm.left"},
        {"kid-paperLantern", "Paper lantern", night, handLantern(0.2), "hand, right", "hand.right"},
        {"elder-netBelt", "Net mender's belt", others, belt(0.17), "waist", "hips", tamsin},
        {"grown-b-rainHat", "Rain hat", others, hat(0.2, 0.14), "head", "head", mira},
        {"pet-bellCollar", "Bell collar", others, collar(0.09), "neck", "neck", odd},
        {"quay-paintedKeg", "Painted keg", others, barrel(0.2, 0.4), "", "", odd},
        {"night-tallLamp", "Tall lamp", others, lampPost(3.1), "", "", mira},
    };
}

} // namespace zl::demo
