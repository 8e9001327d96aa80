// Two carts of the quay's derby: one with plain wheels, and one whose wheels are wanted on it. Both were made
// by hands of their own, so that a picture and a material of each are called alike, the brakes of one hang
// inside its wheels, and the wheels of the other have their origins elsewhere.
#include "demo_data.h"
#include "solids.h"

#include "core/texture/picture_file.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <cmath>
#include <functional>

namespace zl::demo {

namespace {

constexpr double halfTrack = 0.8, frontAxle = 1.0, rearAxle = -0.95;

enum Look { Planks, Fittings, Wheels, Seat };

glm::dmat4 at(const glm::dvec3& place) {
    return glm::translate(glm::dmat4(1.0), place);
}

void wear(Model& model, const char* name, const Pixels& pixels, const char* file, glm::vec3 tint, float rough,
          float metal, double shine) {
    Material material{.name = name, .baseColour = glm::vec4(tint, 1), .metalness = metal, .roughness = rough};
    material.picture(PictureRole::Colour).image = int(model.images.size());
    material.settings = {{"shine", shine}};
    model.images.push_back(texture::pictureFromBytes(file, texture::encodePng(pixels, false)));
    model.materials.push_back(std::move(material));
}

/// A part and its mirror image, to the left and to the right.
void bothSides(const std::function<void(double side)>& part) {
    for (const double side : {1.0, -1.0}) part(side);
}

/// A board chariot: a keel with a nose, a seat and a basket of fruit behind.
Mesh chariotBody() {
    Solids s;
    s.wear(Planks).box({0, 0.46, 0}, {0.3, 0.035, 1.35});
    bothSides([&](double side) {
        s.box({side * 0.33, 0.6, -0.35}, {0.025, 0.15, 0.85});
        s.box({side * 0.3, 0.57, 0.95}, {0.025, 0.1, 0.45}, side * -0.12);
    });
    s.turned({{0, -0.32}, {0.2, -0.3}, {0.26, -0.1}, {0.2, 0.12}, {0.08, 0.28}, {0, 0.3}}, {0, 0.66, 1.15}, 2,
             28);
    s.box({0, 0.56, -1.3}, {0.34, 0.13, 0.025});
    s.wear(Seat).box({0, 0.62, -0.25}, {0.24, 0.05, 0.22}).box({0, 0.86, -0.5}, {0.24, 0.22, 0.04}, 0, -0.2);
    s.wear(Fittings)
        .bar({0, 0.5, 0.5}, {0, 0.95, 0.2}, 0.022)
        .turned({{0.13, -0.015}, {0.16, -0.015}, {0.16, 0.015}, {0.13, 0.015}, {0.13, -0.015}},
                {0, 0.97, 0.19}, 2, 28);
    bothSides([&](double side) {
        s.turned({{0, -0.05}, {0.07, -0.05}, {0.08, 0.04}, {0.05, 0.07}, {0, 0.06}}, {side * 0.27, 0.72, 1.3},
                 2, 18);
        s.bar({side * 0.28, 0.5, -0.95}, {side * 0.28, 0.98, -1.2}, 0.02);
    });
    s.bar({-0.28, 0.98, -1.2}, {0.28, 0.98, -1.2}, 0.02);
    return s.take("body");
}

/// A coster's barrow with a roof: taller, shorter, another maker's.
Mesh barrowBody() {
    Solids s;
    s.wear(Planks).box({0, 0.55, -0.05}, {0.36, 0.04, 1.2}).box({0, 0.75, 1.05}, {0.3, 0.17, 0.04}, 0, -0.25);
    bothSides([&](double side) { s.box({side * 0.36, 0.72, -0.4}, {0.03, 0.15, 0.75}); });
    s.wear(Seat).box({0, 0.68, 0.1}, {0.3, 0.06, 0.24}).box({0, 1.62, -0.35}, {0.46, 0.02, 0.75}, 0, 0.06);
    s.wear(Fittings);
    bothSides([&](double side) {
        for (const double z : {-1.0, 0.3}) s.bar({side * 0.34, 0.55, z}, {side * 0.4, 1.63, z}, 0.02);
    });
    s.bar({0, 0.6, 0.6}, {0, 1.1, 0.42}, 0.022).bar({-0.2, 1.1, 0.42}, {0.2, 1.1, 0.42}, 0.02);
    return s.take("body");
}

/// About an axle along X, its middle at `middle`.
Mesh plainWheel(double radius, const glm::dvec3& middle) {
    Solids s;
    s.wear(Wheels).turned({{0, -0.05},
                           {0.8 * radius, -0.05},
                           {0.86 * radius, -0.075},
                           {radius, -0.06},
                           {radius, 0.06},
                           {0.86 * radius, 0.075},
                           {0.8 * radius, 0.05},
                           {0, 0.05}},
                          middle, 0, 36);
    return s.take("wheel");
}

Mesh spokedWheel(double radius, const glm::dvec3& middle) {
    Solids s;
    s.wear(Wheels).turned({{0.86 * radius, -0.06},
                           {0.97 * radius, -0.06},
                           {radius, -0.04},
                           {radius, 0.04},
                           {0.97 * radius, 0.06},
                           {0.86 * radius, 0.06},
                           {0.86 * radius, -0.06}},
                          middle, 0, 56);
    s.wear(Fittings).turned(
        {{0, -0.085}, {0.05, -0.085}, {0.075, -0.05}, {0.075, 0.05}, {0.05, 0.085}, {0, 0.085}}, middle, 0,
        26);
    for (int i = 0; i < 12; ++i) {
        const double a = glm::two_pi<double>() * i / 12;
        const glm::dvec3 out(0, std::sin(a), std::cos(a));
        s.bar(middle + 0.06 * out + glm::dvec3(i % 2 ? 0.04 : -0.04, 0, 0), middle + 0.88 * radius * out,
              0.012, 8);
    }
    return s.take("wheel");
}

Mesh brakeDisc(double radius, double side) {
    Solids s;
    s.wear(Fittings).turned(
        {{0.03, -0.008}, {radius, -0.008}, {radius, 0.008}, {0.03, 0.008}, {0.03, -0.008}},
        {-side * 0.1, 0, 0}, 0, 30);
    s.box({-side * 0.1, 0.8 * radius, 0}, {0.025, 0.045, 0.035});
    return s.take("brake");
}

/// Four hubs with what hangs on them; `make` puts wheel and brake onto a hub.
void onFourHubs(Model& cart, int body, double radius,
                const std::function<void(const std::string& ending, int hub, double side)>& make) {
    for (const auto& [end, z] : {std::pair{"front", frontAxle}, {"rear", rearAxle}})
        bothSides([&, end = end, z = z](double side) {
            const std::string ending = std::string(end) + (side > 0 ? ".left" : ".right");
            make(ending, addNode(cart, "hub." + ending, body, at({side * halfTrack, radius, z})), side);
        });
    Solids axles;
    axles.wear(Fittings);
    for (const double z : {frontAxle, rearAxle})
        axles.bar({-halfTrack, radius, z}, {halfTrack, radius, z}, 0.025)
            .box({0, radius + 0.04, z}, {0.2, 0.05, 0.06});
    addNode(cart, "axles", -1, glm::dmat4(1.0), axles.take("axles"));
}

Pixels wheelPaint(const glm::vec3& light, const glm::vec3& dark) {
    Pixels p{256, 256, std::vector<std::uint8_t>(std::size_t(4) * 256 * 256, 255)};
    for (int y = 0; y < 256; ++y)
        for (int x = 0; x < 256; ++x) {
            const float worn = layeredNoise(float(x) / 32, float(y) / 32, 8, 5, 4);
            const glm::vec3 c = glm::mix(dark, light, (x / 32) % 2 ? worn : 0.6f + 0.4f * worn);
            for (int k = 0; k < 3; ++k) p.rgba[4 * (std::size_t(y) * 256 + x) + k] = std::uint8_t(c[k] * 255);
        }
    return p;
}

} // namespace

Model derbyCart() {
    Model cart;
    cart.name = "derby-cart";
    wear(cart, "planks", woodPicture(256, 21, 0.7f), "planks.png", {0.62f, 0.86f, 0.84f}, 0.55f, 0, 0.5);
    wear(cart, "fittings", ironPicture(256), "iron.png", {1, 1, 1}, 0.4f, 0.7f, 0.8);
    wear(cart, "wheel paint", wheelPaint({0.52f, 0.47f, 0.4f}, {0.3f, 0.26f, 0.22f}), "wheel.png", {1, 1, 1},
         0.7f, 0, 0.2);
    wear(cart, "seat", clothPicture(256), "seat.png", {1, 1, 1}, 0.9f, 0, 0.1);
    constexpr double radius = 0.34;
    const int body = addNode(cart, "body", -1, glm::dmat4(1.0), chariotBody());
    onFourHubs(cart, body, radius, [&](const std::string& ending, int hub, double side) {
        const glm::dvec3 off(side * 0.04, -0.03, 0.06); // its maker left the origins beside the middle
        addNode(cart, "wheel." + ending, hub, at(off), plainWheel(radius, -off));
        addNode(cart, "brake." + ending, hub, glm::dmat4(1.0), brakeDisc(0.17, side));
    });
    return cart;
}

Model dandyCart() {
    Model cart;
    cart.name = "dandy-cart";
    wear(cart, "planks", woodPicture(256, 33, 0.2f), "planks.png", {0.96f, 0.72f, 0.62f}, 0.5f, 0, 0.6);
    wear(cart, "fittings", ironPicture(256), "iron.png", {1, 1, 1}, 0.4f, 0.7f, 0.8);
    wear(cart, "wheel paint", wheelPaint({0.78f, 0.3f, 0.22f}, {0.6f, 0.2f, 0.15f}), "wheel.png", {1, 1, 1},
         0.35f, 0, 0.9);
    wear(cart, "awning", clothPicture(256), "seat.png", {1, 1, 1}, 0.9f, 0, 0.1);
    constexpr double radius = 0.38;
    const int body = addNode(cart, "body", -1, glm::dmat4(1.0), barrowBody());
    onFourHubs(cart, body, radius, [&](const std::string& ending, int hub, double side) {
        const int wheel =
            addNode(cart, "wheel." + ending, hub, glm::dmat4(1.0), spokedWheel(radius, {0, 0, 0}));
        addNode(cart, "brake." + ending, wheel, glm::dmat4(1.0), brakeDisc(0.2, side));
    });
    return cart;
}

} // namespace zl::demo
