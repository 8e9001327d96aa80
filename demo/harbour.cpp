// Things of the harbour: the dock hoist, the haul cart and eight props of the kiosk, with the faults that
// real files have: another unit, another axis up, mirrored halves, nested groups, a name used twice, a wrong
// heading.
#include "demo_data.h"
#include "solids.h"

#include "core/texture/picture_file.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

namespace zl::demo {

Model withHarbourMaterials() {
    Model model;
    const auto add = [&](const char* name, const Pixels& pixels, const char* file, float rough, float metal) {
        Material material{.name = name, .baseColour = {1, 1, 1, 1}, .metalness = metal, .roughness = rough};
        material.picture(PictureRole::Colour).image = static_cast<int>(model.images.size());
        model.images.push_back(texture::pictureFromBytes(file, texture::encodePng(pixels, false)));
        model.materials.push_back(material);
    };
    add("harbour wood", woodPicture(256, 9, 0.5f), "harbour-wood.png", 0.8f, 0);
    add("harbour iron", ironPicture(256), "harbour-iron.png", 0.5f, 0.6f);
    add("harbour cloth", clothPicture(256), "harbour-cloth.png", 0.9f, 0);
    add("harbour fruit", fruitPicture(256), "harbour-fruit.png", 0.6f, 0);
    model.materials.push_back({.name = "lamp glass",
                               .baseColour = {0.95f, 0.78f, 0.42f, 1},
                               .emission = {0.5f, 0.35f, 0.1f},
                               .roughness = 0.2f});
    return model;
}

namespace {

glm::dmat4 moved(double x, double y, double z) {
    return glm::translate(glm::dmat4(1.0), {x, y, z});
}

/// A spoked wheel about an axle along X, its middle at the origin.
Mesh wheel(const std::string& name, double radius) {
    Solids s;
    s.wear(Wood).turned({{0.82 * radius, -0.05},
                         {radius, -0.05},
                         {radius, 0.05},
                         {0.82 * radius, 0.05},
                         {0.82 * radius, -0.05}},
                        {0, 0, 0}, 0, 40);
    s.turned({{0, -0.11}, {0.16 * radius, -0.11}, {0.16 * radius, 0.11}, {0, 0.11}}, {0, 0, 0}, 0, 20);
    for (int i = 0; i < 10; ++i) {
        const double a = glm::two_pi<double>() * i / 10;
        s.bar({0, 0.12 * radius * std::sin(a), 0.12 * radius * std::cos(a)},
              {0, 0.85 * radius * std::sin(a), 0.85 * radius * std::cos(a)}, 0.028);
    }
    return s.take(name);
}

/// The left half of the cart's body, from x = 0 outward; the right half is the same, mirrored.
Mesh cartHalf(const std::string& name) {
    Solids s;
    s.wear(Wood);
    for (int i = 0; i < 3; ++i) s.box({0.16 + 0.3 * i, 0.78, 0}, {0.14, 0.03, 1.35});
    for (int i = 0; i < 3; ++i) s.box({0.93, 0.94 + 0.19 * i, -0.1}, {0.025, 0.07, 1.2});
    for (const double z : {-1.2, -0.4, 0.4, 1.0}) s.box({0.965, 1.1, z}, {0.03, 0.34, 0.035});
    s.box({0.45, 1.13, -1.32}, {0.47, 0.28, 0.025});
    s.box({0.4, 1.36, 1.0}, {0.42, 0.03, 0.2})
        .box({0.4, 1.62, 0.82}, {0.42, 0.2, 0.025}, 0, -0.15); // the driver's bench
    s.box({0.5, 1.17, 1.12}, {0.4, 0.17, 0.02});
    s.wear(Iron)
        .bar({0.05, 0.62, 0.95}, {1.05, 0.62, 0.95}, 0.035)
        .bar({0.05, 0.62, -0.85}, {1.05, 0.62, -0.85}, 0.035);
    s.box({0.55, 0.7, 0.95}, {0.05, 0.06, 0.1}).box({0.55, 0.7, -0.85}, {0.05, 0.06, 0.1});
    return s.take(name);
}

} // namespace

Model haulCart() {
    Model cart = withHarbourMaterials();
    cart.name = "haul-cart";
    // Drawn six times too large, driving towards -X, with its halves in nested, turned and mirrored groups.
    const glm::dmat4 wrong =
        glm::scale(moved(4, 0.8, -3) * glm::rotate(glm::dmat4(1.0), -glm::half_pi<double>(), {0, 1, 0}),
                   glm::dvec3(6.0));
    const int root = addNode(cart, "cart export", -1, wrong);
    const int body = addNode(cart, "body", root, moved(0, 0, 0.2));
    const int inner = addNode(cart, "sides", body, glm::rotate(moved(0, 0, -0.2), 0.0, {0, 1, 0}));
    addNode(cart, "side.left", inner, glm::dmat4(1.0), cartHalf("side.left"));
    addNode(cart, "side.right", inner, glm::scale(glm::dmat4(1.0), {-1, 1, 1}), cartHalf("side.right"));
    Solids shaft;
    shaft.wear(Wood).bar({0, 0.66, 1.3}, {0, 0.62, 2.3}, 0.05, 14).box({0, 0.66, 1.25}, {0.35, 0.05, 0.06});
    shaft.wear(Iron).turned({{0.03, -0.03}, {0.09, 0}, {0.03, 0.03}}, {0, 0.62, 2.32}, 1, 14);
    addNode(cart, "drawbar", body, moved(0, 0, -0.2), shaft.take("drawbar"));
    Solids load;
    load.wear(Fruit);
    for (int i = 0; i < 26; ++i) {
        const double x = -0.55 + 0.36 * (i % 4) + 0.06 * (i % 3), z = -1.0 + 0.26 * (i / 4) + 0.03 * (i % 5),
                     y = 0.98 + 0.16 * ((i * 7) % 3);
        std::vector<glm::dvec2> round;
        for (int k = 0; k <= 10; ++k)
            round.push_back(
                {0.17 * std::sin(glm::pi<double>() * k / 10), -0.17 * std::cos(glm::pi<double>() * k / 10)});
        load.turned(round, {x, y, z}, 1, 14);
    }
    addNode(cart, "load", body, moved(0, 0, -0.2), load.take("load"));
    const int wheels = addNode(cart, "wheels", root, glm::dmat4(1.0));
    const auto put = [&](const char* name, double x, double z, double radius) {
        addNode(cart, name, wheels, moved(x, radius, z), wheel(name, radius));
    };
    put("wheel.front.left", 1.08, 0.95, 0.5), put("wheel.front.right", -1.08, 0.95, 0.5);
    put("wheel.rear.left", 1.08, -0.85, 0.62), put("wheel.rear.right", -1.08, -0.85, 0.62);
    return cart;
}

Model dockHoist() {
    Model hoist = withHarbourMaterials();
    hoist.name = "dock-hoist";
    Solids foot;
    foot.wear(Wood).box({0, 0.12, 0}, {1.1, 0.12, 1.1}).wear(Iron).box({0, 0.3, 0}, {0.7, 0.06, 0.7});
    foot.turned({{0.5, 0.36}, {0.42, 0.5}, {0.42, 0.62}, {0, 0.62}}, {0, 0, 0}, 1, 32);
    addNode(hoist, "Foot", -1, glm::dmat4(1.0), foot.take("Foot"));
    Solids mast;
    mast.wear(Wood).box({0, 2.5, 0}, {0.16, 1.9, 0.16});
    mast.wear(Iron);
    for (const double y : {0.8, 2.0, 3.2, 4.3}) mast.box({0, y, 0}, {0.19, 0.06, 0.19});
    for (const double side : {-1.0, 1.0}) mast.bar({side * 0.9, 0.3, -0.5}, {0, 3.2, 0}, 0.045);
    addNode(hoist, "Mast", -1, glm::dmat4(1.0), mast.take("Mast"));
    Solids jib;
    jib.wear(Wood).bar({0, 1.1, 0.15}, {0, 4.9, 3.2}, 0.11, 14).bar({0, 4.3, 0.1}, {0, 4.9, 3.2}, 0.04);
    jib.wear(Iron)
        .box({0, 4.9, 3.2}, {0.1, 0.14, 0.14})
        .turned({{0.03, -0.05}, {0.2, -0.05}, {0.16, 0}, {0.2, 0.05}, {0.03, 0.05}}, {0, 4.86, 3.3}, 0, 24);
    addNode(hoist, "Jib", -1, glm::dmat4(1.0), jib.take("Jib"));
    Solids winch;
    winch.wear(Iron).turned({{0, -0.35},
                             {0.24, -0.35},
                             {0.24, -0.3},
                             {0.14, -0.3},
                             {0.14, 0.3},
                             {0.24, 0.3},
                             {0.24, 0.35},
                             {0, 0.35}},
                            {0, 1.15, -0.35}, 0, 26);
    winch.bar({0.35, 1.15, -0.35}, {0.5, 1.15, -0.35}, 0.03)
        .bar({0.5, 1.15, -0.35}, {0.5, 1.42, -0.35}, 0.03)
        .bar({0.5, 1.42, -0.35}, {0.7, 1.42, -0.35}, 0.03);
    addNode(hoist, "Winch", -1, glm::dmat4(1.0), winch.take("Winch"));
    Solids hook;
    hook.wear(Cloth)
        .bar({0, 2.6, 3.42}, {0, 4.86, 3.42}, 0.018, 6)
        .bar({0, 1.2, -0.2}, {0, 4.95, 3.2}, 0.018, 6);
    hook.wear(Iron).box({0, 2.5, 3.42}, {0.07, 0.12, 0.07});
    for (int i = 0; i < 10; ++i) {
        const double a = -1.2 + 0.42 * i, b = a + 0.42;
        hook.bar({0, 2.22 + 0.16 * std::cos(a), 3.42 + 0.16 * std::sin(a)},
                 {0, 2.22 + 0.16 * std::cos(b), 3.42 + 0.16 * std::sin(b)}, 0.035, 8);
    }
    addNode(hoist, "Hook", -1, glm::dmat4(1.0), hook.take("Hook"));
    return hoist;
}

Model kioskProps() {
    Model pack = withHarbourMaterials();
    pack.name = "kiosk-props";
    const int root = addNode(pack, "props export", -1, moved(0.4, 0.05, 0));
    const int left = addNode(pack, "left of the stall", root, moved(-1.6, 0, 0)),
              right = addNode(pack, "right of the stall", root, moved(1.6, 0, 0));
    const auto crate = [&](double tall) {
        Solids s;
        s.wear(Wood);
        for (const double side : {-1.0, 1.0})
            for (int i = 0; i < 3; ++i)
                s.box({0, 0.06 + tall * i / 3, side * 0.2}, {0.3, 0.042, 0.012})
                    .box({side * 0.29, 0.06 + tall * i / 3, 0}, {0.012, 0.042, 0.19});
        for (int i = 0; i < 4; ++i) s.box({-0.21 + 0.14 * i, 0.012, 0}, {0.06, 0.012, 0.19});
        return s.take("crate");
    };
    addNode(pack, "crate", left, moved(-0.9, 0, 0), crate(0.24));
    addNode(pack, "crate", right, moved(0.9, 0, 0.1), crate(0.34)); // the same name a second time
    Solids barrel;
    barrel.wear(Wood).turned({{0, 0},
                              {0.24, 0},
                              {0.3, 0.2},
                              {0.32, 0.38},
                              {0.3, 0.56},
                              {0.24, 0.76},
                              {0.22, 0.76},
                              {0.22, 0.72},
                              {0, 0.72}},
                             {0, 0, 0}, 1, 30);
    addNode(pack, "barrel", left, moved(0, 0, 0.4), barrel.take("barrel"));
    Solids lantern;
    lantern.wear(Iron)
        .turned({{0, 0}, {0.13, 0}, {0.13, 0.04}, {0.09, 0.05}, {0, 0.05}}, {0, 0, 0}, 1, 20)
        .turned({{0, 0.4}, {0.03, 0.39}, {0.14, 0.3}, {0.12, 0.3}, {0, 0.31}}, {0, 0, 0}, 1, 20);
    for (int i = 0; i < 4; ++i) {
        const double a = glm::half_pi<double>() * i;
        lantern.bar({0.11 * std::cos(a), 0.04, 0.11 * std::sin(a)},
                    {0.11 * std::cos(a), 0.31, 0.11 * std::sin(a)}, 0.009, 6);
    }
    lantern.wear(Glass).turned({{0, 0.05}, {0.08, 0.05}, {0.09, 0.17}, {0.07, 0.3}, {0, 0.3}}, {0, 0, 0}, 1,
                               20);
    addNode(pack, "lantern", left, moved(0.7, 0, 0), lantern.take("lantern"));
    Solids stool;
    stool.wear(Wood).turned({{0, 0.42}, {0.19, 0.42}, {0.2, 0.44}, {0.19, 0.47}, {0, 0.47}}, {0, 0, 0}, 1,
                            28);
    for (int i = 0; i < 3; ++i) {
        const double a = glm::two_pi<double>() * i / 3;
        stool.bar({0.2 * std::cos(a), 0, 0.2 * std::sin(a)}, {0.1 * std::cos(a), 0.43, 0.1 * std::sin(a)},
                  0.02);
    }
    addNode(pack, "stool", right, moved(-0.8, 0, 0.3), stool.take("stool"));
    Solids sign;
    sign.wear(Wood)
        .box({0, 0.5, 0}, {0.28, 0.36, 0.015}, 0, -0.2)
        .box({0, 0.5, -0.22}, {0.28, 0.36, 0.012}, 0, 0.25);
    sign.wear(Cloth).box({0, 0.52, 0.02}, {0.23, 0.24, 0.006}, 0, -0.2);
    addNode(pack, "sign", right, moved(0.2, 0.135, 0.5), sign.take("sign"));
    Solids basket;
    basket.wear(Cloth).turned({{0, 0}, {0.2, 0}, {0.26, 0.2}, {0.25, 0.2}, {0.19, 0.03}, {0, 0.03}},
                              {0, 0, 0}, 1, 28);
    basket.wear(Fruit);
    for (int i = 0; i < 9; ++i) {
        std::vector<glm::dvec2> round;
        for (int k = 0; k <= 8; ++k)
            round.push_back(
                {0.07 * std::sin(glm::pi<double>() * k / 8), -0.07 * std::cos(glm::pi<double>() * k / 8)});
        const double a = glm::two_pi<double>() * i / 8;
        basket.turned(
            round, i == 8 ? glm::dvec3(0, 0.2, 0) : glm::dvec3(0.13 * std::cos(a), 0.15, 0.13 * std::sin(a)),
            1, 12);
    }
    addNode(pack, "basket", right, moved(-0.2, 0, -0.3), basket.take("basket"));
    Solids scales;
    scales.wear(Iron)
        .turned({{0, 0}, {0.14, 0}, {0.13, 0.03}, {0.03, 0.05}, {0.02, 0.36}, {0.03, 0.38}, {0, 0.39}},
                {0, 0, 0}, 1, 24)
        .box({0, 0.35, 0}, {0.26, 0.012, 0.015});
    for (const double side : {-1.0, 1.0}) {
        scales.turned({{0, 0.14}, {0.1, 0.16}, {0.11, 0.19}, {0.09, 0.17}, {0, 0.155}}, {side * 0.25, 0, 0},
                      1, 20);
        for (const double z : {-0.08, 0.08})
            scales.bar({side * 0.25, 0.18, z}, {side * 0.25, 0.35, 0}, 0.005, 5);
    }
    addNode(pack, "scales", left, moved(-0.2, 0, -0.4), scales.take("scales"));
    return pack;
}

} // namespace zl::demo
