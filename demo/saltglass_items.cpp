// The sixty items of the Saltglass catalogue.
#include "saltglass_items.h"

#include "demo_data.h"
#include "saltglass_worn.h"

#include <glm/gtc/constants.hpp>

namespace zl::demo {

namespace {

constexpr double whole = glm::two_pi<double>();

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
        s.rope(handle, 0.008, 6);
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
        s.rope(path, 0.026, 7);
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
    s.rope(arms, 0.026, 10);
    s.ring({0, 0.91, 0}, {0.06, 0, 0}, {0, 0.06, 0}, 0.013, 16);
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
            s.ring({1.1 * radius, 0.5 * tall, 0}, {0.45 * radius, 0, 0}, {0, 0.3 * tall, 0}, 0.12 * radius,
                   14);
    };
}

void fish(Solids& s) {
    s.wear(Iron).turned({{0, -0.16}, {0.03, -0.13}, {0.055, -0.02}, {0.05, 0.06}, {0.015, 0.14}, {0, 0.14}},
                        {0, 0.055, 0}, 0, 18);
    s.box({0.17, 0.055, 0}, {0.035, 0.045, 0.006}).box({0, 0.115, 0}, {0.05, 0.016, 0.004});
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
