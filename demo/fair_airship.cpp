// The fair's airship: an envelope with holes, thin fins, an open gondola, a sail, ropes and a propeller.
#include "demo_data.h"
#include "solids.h"

#include "core/texture/picture_file.h"

#include <glm/gtc/constants.hpp>

#include <cmath>

namespace zl::demo {

namespace {

constexpr double half = 3.3, widest = 1.25, high = 2.55; ///< of the envelope, and its middle line, metres

double radiusAt(double along) {
    const double t = along / half; // blunt ahead, drawn out behind
    return widest * std::sqrt(std::max(0.0, 1 - t * t)) * (1 + 0.12 * t);
}

Mesh envelope() {
    std::vector<glm::dvec2> profile;
    constexpr int rings = 28;
    for (int i = 0; i <= rings; ++i) {
        const double z = -half * std::cos(glm::pi<double>() * i / rings);
        profile.emplace_back(i == 0 || i == rings ? 0 : radiusAt(z), z);
    }
    Mesh out = Solids().wear(0).turned(profile, {0, high, 0}, 2, 32).take("envelope");
    // Patches that came off: here and there one triangle is gone.
    std::vector<std::uint32_t> kept;
    for (std::size_t t = 0; t < out.triangleCount(); ++t)
        if (t % 211 != 37) kept.insert(kept.end(), &out.indices[3 * t], &out.indices[3 * t] + 3);
    out.indices = std::move(kept);
    out.runs = {{0, std::uint32_t(out.triangleCount()), 0}};
    return out;
}

Mesh sail() {
    Mesh out;
    out.name = "rudder sail";
    out.positions = {{0, 2.2f, -3.1f}, {0, 3.9f, -3.35f}, {0, 3.7f, -4.1f}, {0, 2.5f, -3.9f}};
    out.normals.assign(4, {1, 0, 0});
    out.uvSets = {{{0, 0}, {0, 0}, {0, 0}, {0, 0}}};
    out.indices = {0, 1, 2, 0, 2, 3};
    out.runs = {{0, 2, 2}};
    return out;
}

} // namespace

Model fairAirship() {
    Model ship;
    ship.name = "fair-airship";
    const auto wears = [&](const char* name, const Pixels& pixels, const char* file) {
        Material material{.name = name, .baseColour = {1, 1, 1, 1}, .roughness = 0.8f};
        material.picture(PictureRole::Colour).image = int(ship.images.size());
        ship.images.push_back(texture::pictureFromBytes(file, texture::encodePng(pixels, false)));
        ship.materials.push_back(material);
    };
    wears("banded canvas",
          painted(256,
                  [](float, float v) {
                      const bool band = v < 0.5f;
                      return (band ? glm::vec3(0.88f, 0.66f, 0.29f) : glm::vec3(0.94f, 0.90f, 0.82f)) *
                             (0.94f + 0.06f * noise(3 * v, 40 * v, 40, 7));
                  }),
          "airship-bands.png");
    wears("gondola oak", woodPicture(256, 23, 0.5f), "airship-oak.png");
    ship.materials.push_back({.name = "red fin", .baseColour = {0.46f, 0.07f, 0.03f, 1}, .roughness = 0.7f});
    ship.materials.push_back(
        {.name = "tarred rope", .baseColour = {0.05f, 0.045f, 0.04f, 1}, .roughness = 0.9f});

    addNode(ship, "envelope", -1, glm::dmat4(1.0), envelope());
    Solids fins;
    fins.wear(2);
    for (int i = 0; i < 4; ++i) { // thinner than a sixth of a block
        const bool upright = i % 2 == 0;
        const double out = i < 2 ? 1.0 : -1.0;
        const glm::dvec3 at =
            upright ? glm::dvec3(0, high + out * 1.15, -2.5) : glm::dvec3(out * 1.15, high, -2.5);
        fins.box(at, upright ? glm::dvec3(0.02, 0.62, 0.5) : glm::dvec3(0.62, 0.02, 0.5));
    }
    addNode(ship, "fins", -1, glm::dmat4(1.0), fins.take("fins"));
    addNode(ship, "rudder sail", -1, glm::dmat4(1.0), sail());
    Solids gondola;
    gondola.wear(1)
        .box({0, 0.3, 0.2}, {0.48, 0.1, 1.3}) // floor, sides, and a cabin ahead
        .box({0, 0.15, 0.2}, {0.14, 0.15, 1.5});
    for (const double side : {-1.0, 1.0}) gondola.box({side * 0.46, 0.6, 0.2}, {0.06, 0.3, 1.3});
    for (const double end : {-1.0, 1.0}) gondola.box({0, 0.6, 0.2 + end * 1.26}, {0.46, 0.3, 0.06});
    gondola.box({0, 0.75, 1.0}, {0.44, 0.45, 0.45});
    addNode(ship, "gondola", -1, glm::dmat4(1.0), gondola.take("gondola"));
    Solids pylons;
    pylons.wear(1);
    for (const double z : {-0.7, 1.0}) pylons.box({0, 1.15, z}, {0.16, 0.5, 0.16});
    addNode(ship, "pylons", -1, glm::dmat4(1.0), pylons.take("pylons"));
    Solids ropes;
    ropes.wear(3);
    for (const double side : {-1.0, 1.0})
        for (int i = 0; i < 5; ++i) {
            const double z = -1.0 + 0.6 * i;
            ropes.bar({side * 0.46, 0.9, z}, {side * 0.95, high - 0.6, z}, 0.015, 6);
        }
    ropes.rope({{0, high, 3.25}, {0, 1.6, 3.9}, {0.1, 0.7, 4.0}}, 0.02, 6); // a mooring line ahead
    addNode(ship, "ropes", -1, glm::dmat4(1.0), ropes.take("ropes"));
    Solids propeller;
    propeller.wear(1).bar({0, 0.75, -1.1}, {0, 0.75, -1.75}, 0.1, 10);
    propeller.box({0, 0.75, -1.7}, {0.55, 0.09, 0.02}, 0, 0.5)
        .box({0, 0.75, -1.7}, {0.09, 0.55, 0.02}, 0, 0.5);
    addNode(ship, "propeller", -1, glm::dmat4(1.0), propeller.take("propeller"));
    Solids lamp; // a chest of lamps, on one side only
    lamp.wear(2).box({0.74, 0.85, 0.5}, {0.24, 0.3, 0.5});
    addNode(ship, "lamp chest", -1, glm::dmat4(1.0), lamp.take("lamp chest"));
    return ship;
}

} // namespace zl::demo
