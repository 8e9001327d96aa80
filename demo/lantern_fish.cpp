// The lantern fish: oiled paper on ribs with a soft tail, ridden through the harbour at the fair. Its rig was
// drawn in decimetres and scaled back, and it drifts forward as it swims.
#include "demo_data.h"
#include "jointed.h"

#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <cmath>
#include <numbers>

namespace zl::demo {

namespace lantern_fish {

namespace {

using std::numbers::pi;

/// Decimetres; the rig's scale makes metres of them.
constexpr double drawnIn = 10;

enum Bone { Root, Body, Front, Jaw, Tail1, Tail2, Tail3, FinLeft, FinRight, FinTop, Rider };

const std::vector<DrawnBone>& bones() {
    static const std::vector<DrawnBone> drawn{{"root", -1, {0, 0, 0}},
                                              {"body", Root, {0, 6.2, 0}},
                                              {"front", Body, {0, 6.2, 3.0}},
                                              {"jaw", Front, {0, 5.6, 5.2}},
                                              {"tail.1", Body, {0, 6.2, -3.0}},
                                              {"tail.2", Tail1, {0, 6.2, -5.6}},
                                              {"tail.3", Tail2, {0, 6.2, -8.0}},
                                              {"fin.left", Body, {2.5, 5.4, 1.0}},
                                              {"fin.right", Body, {-2.5, 5.4, 1.0}},
                                              {"fin.top", Body, {0, 9.2, -1.4}},
                                              {"rider", Body, {0, 9.0, 1.0}}};
    return drawn;
}

enum Worn { Paper, Rib, Silk, Glass, Dolly };

/// Which two bones of the back a corner hangs on, by how far forward it is.
Hung alongBack(const glm::dvec3& p) {
    if (p.z > 0) return {Body, Front, float(eased(p.z, 1.2, 4.2))};
    if (p.z > -4.4) return {Body, Tail1, float(eased(-p.z, 1.4, 4.2))};
    if (p.z > -6.9) return {Tail1, Tail2, float(eased(-p.z, 4.6, 6.8))};
    return {Tail2, Tail3, float(eased(-p.z, 7.0, 9.2))};
}

/// Half the width and half the height of the body, by how far forward (-8 to 8).
glm::dvec2 girthAt(double z) {
    const double t = (z + 8) / 16,
                 bulge = std::pow(std::sin(pi * std::pow(std::clamp(t, 0.0, 1.0), 0.62)), 0.75);
    return {0.25 + 2.45 * bulge, 0.35 + 3.0 * bulge};
}

Ring acrossAt(double z, double wider) {
    const glm::dvec2 half = girthAt(z) + wider;
    return {{0, 6.2 + 0.25 * std::sin(z * 0.3), z}, {0, -half.y, 0}, {half.x, 0, 0}};
}

void bodyOf(Jointed& fish) {
    fish.hang(alongBack).wear(Paper);
    std::vector<Ring> rings{{acrossAt(-7.8, 0).middle, {}, {}}};
    for (int k = 0; k <= 26; ++k) {
        // Paper sinks in between its ribs.
        const double z = -7.8 + 15.2 * k / 26;
        rings.push_back(acrossAt(z, k % 2 ? -0.09 : 0.0));
    }
    rings.push_back({{0, rings.back().middle.y, 7.75}, {}, {}});
    fish.tube(rings, 28);
    fish.wear(Rib);
    for (int k = 2; k <= 24; k += 2) {
        const double z = -7.8 + 15.2 * k / 26;
        fish.tube({acrossAt(z - 0.11, -0.03), acrossAt(z, 0.09), acrossAt(z + 0.11, -0.03)}, 20);
    }
    fish.hangOn(Jaw).tube({{{0, 5.35, 5.2}, {0, -0.18, 0}, {1.0, 0, 0}},
                           {{0, 5.05, 6.6}, {0, -0.22, 0}, {0.9, 0, 0}},
                           {{0, 5.15, 7.6}, {0, -0.14, 0}, {0.5, 0, 0}},
                           {{0, 5.2, 7.8}, {}, {}}},
                          10);
    fish.wear(Glass).hangOn(Front);
    for (const double side : {-1.0, 1.0}) fish.ball({side * 1.72, 7.0, 5.0}, {0.42, 0.62, 0.62}, 14, 9);
}

/// A sheet of silk with two sides, between a root and an edge.
void silk(Jointed& fish, int across, int up, const Jointed::Sheet& at) {
    fish.wear(Silk).sheet(across, up, at);
    fish.sheet(across, up, [at](double u, double v) { return at(1 - u, v); });
}

void finsOf(Jointed& fish) {
    fish.hang(alongBack);
    silk(fish, 10, 8, [](double u, double v) { // the tail spreads upward and downward
        const double back = -7.4 - 3.6 * u, spread = 0.35 + 2.9 * eased(u, 0, 1);
        const double notch = 0.9 * u * (1 - std::abs(2 * v - 1));
        return glm::dvec3(0, 6.2 + (2 * v - 1) * spread, back + notch);
    });
    for (const bool left : {true, false}) {
        const double s = left ? 1 : -1;
        fish.hangOn(left ? FinLeft : FinRight);
        silk(fish, 7, 5, [s](double u, double v) {
            const double a = -0.2 - 0.9 * u;
            const double r = 0.2 + 2.6 * v * (0.75 + 0.25 * std::sin(pi * u));
            return glm::dvec3(s * (2.35 + r * std::cos(a) * 0.8), 5.4 + r * std::sin(a) * 0.45,
                              1.3 - 1.5 * u - 0.5 * r);
        });
    }
    fish.hangOn(FinTop);
    silk(fish, 9, 4, [](double u, double v) {
        const double z = 0.4 - 3.6 * u, foot = 6.2 + girthAt(z).y - 0.15;
        return glm::dvec3(0, foot + v * (0.4 + 1.9 * std::sin(pi * std::min(1.0, u + 0.15))), z - 0.8 * v);
    });
}

/// Somebody small to ride it; games put their own there.
Mesh rider() {
    Jointed doll;
    const auto up = [](double y, double wide, double deep) {
        return Ring{{0, y, 0}, {0, 0, -deep}, {-wide, 0, 0}};
    };
    doll.wear(Dolly).tube(
        {up(0, 0, 0), up(0, 0.7, 0.6), up(0.8, 0.75, 0.6), up(1.7, 0.55, 0.45), up(1.9, 0, 0)}, 12);
    doll.ball({0, 2.6, 0.05}, {0.72, 0.78, 0.72}, 14, 9);
    for (const double side : {-1.0, 1.0}) {
        doll.tube({{{side * 0.55, 1.5, 0}, {0, 0, 0.2}, {0, -side * 0.2, 0}},
                   {{side * 0.95, 1.0, 0.8}, {0, 0, 0.18}, {0, -side * 0.18, 0}},
                   {{side * 0.98, 0.96, 0.95}, {}, {}}},
                  8);
        doll.ball({side * 0.6, 0.1, 0.75}, {0.3, 0.28, 0.62}, 8, 5);
    }
    return doll.take("rider doll");
}

glm::vec3 paperAt(float u, float v) {
    // u runs from the belly up one side, over the back, and down the other; v from the tail to the nose.
    const float back = 1 - std::abs(2 * u - 1) * 2 > 0 ? 1 - std::abs(2 * u - 1) * 2 : 0;
    glm::vec3 c =
        glm::mix(glm::vec3(0.98f, 0.80f, 0.42f), glm::vec3(0.88f, 0.40f, 0.10f), float(eased(back, 0, 0.7)));
    const float row = std::floor(v * 22), shift = std::fmod(row, 2.0f) * 0.5f;
    const glm::vec2 scale{(u * 18 + shift) - std::floor(u * 18 + shift) - 0.5f, v * 22 - row - 0.35f};
    const float far = glm::length(scale);
    if (v < 0.78f && far > 0.42f && far < 0.52f && scale.y > -0.1f) c *= 0.80f;
    return c * (0.92f + 0.12f * layeredNoise(u * 10, v * 10, 10, 61, 4));
}

glm::vec3 silkAt(float u, float v) {
    const float ray = 0.5f + 0.5f * std::sin(v * 60 + 3 * layeredNoise(u * 4, v * 4, 4, 5));
    return glm::mix(glm::vec3(0.95f, 0.70f, 0.25f), glm::vec3(0.80f, 0.30f, 0.14f), 0.6f * u + 0.3f * ray);
}

/// A beat runs down the back to the tail; it leaves the front almost still.
void beat(Sampled& clip, int first, double degreesOfTail, double times) {
    const auto bends = [&](int bone, double share, double late) {
        clip.turn(first + bone,
                  [=](double t) { return degrees(0, share * degreesOfTail * wave(times * t, -late)); });
    };
    bends(Front, -0.2, 0), bends(Body, 0.12, 0), bends(Tail1, 0.45, 0.12), bends(Tail2, 0.8, 0.24),
        bends(Tail3, 1, 0.36);
}

std::shared_ptr<const Clip> swim(int first) {
    Sampled clip("swim", 1.2, 60);
    clip.place(first + Root, [](double t) {
        return glm::dvec3(0, 0.3 * wave(t), 18.4 * t); // 1.84 m forward, bobbing by 3 cm
    });
    beat(clip, first, 26, 2);
    for (const bool left : {true, false})
        clip.turn(first + (left ? FinLeft : FinRight), [=](double t) {
            return degrees(6 * wave(t), 0, (left ? 1 : -1) * (8 + 16 * wave(2 * t, 0.1)));
        });
    clip.turn(first + FinTop, [](double t) { return degrees(0, 0, 6 * wave(2 * t)); });
    clip.turn(first + Jaw, [](double t) { return degrees(5 + 5 * wave(t)); });
    return clip.take();
}

std::shared_ptr<const Clip> glide(int first) {
    Sampled clip("glide", 2.0, 60);
    clip.place(first + Root, [](double t) { return glm::dvec3(0, 0.5 * wave(t), 0); });
    clip.turn(first + Root, [](double t) { return degrees(3 * wave(t, 0.25), 0, 4 * wave(t)); });
    beat(clip, first, 7, 1);
    for (const bool left : {true, false})
        clip.turn(first + (left ? FinLeft : FinRight),
                  [=](double t) { return degrees(0, 0, (left ? 1 : -1) * (20 + 4 * wave(t))); });
    return clip.take();
}

std::shared_ptr<const Clip> startle(int first) {
    Sampled clip("startle", 0.5, 60);
    clip.place(first + Root, [](double t) { return glm::dvec3(0, 2.2 * std::sin(pi * t), 0); });
    clip.turn(first + Root, [](double t) { return degrees(-22 * std::sin(pi * t), 0, 0); });
    beat(clip, first, 34, 2);
    for (const bool left : {true, false})
        clip.turn(first + (left ? FinLeft : FinRight),
                  [=](double t) { return degrees(0, 0, (left ? 1 : -1) * 48 * std::sin(pi * t)); });
    clip.turn(first + Jaw, [](double t) { return degrees(24 * std::sin(pi * t)); });
    return clip.take();
}

} // namespace

Model made() {
    Model fish;
    fish.name = "lantern-fish";
    fish.frame.unitAssumed = fish.frame.upAssumed = false;
    fish.headingKnown = true;
    const auto wears = [&](const char* name, Pixels pixels, float rough, glm::vec3 glow) {
        Material material{.name = name, .baseColour = {1, 1, 1, 1}, .emission = glow, .roughness = rough};
        material.picture(PictureRole::Colour).image = int(fish.images.size());
        fish.images.push_back(
            texture::pictureFromPixels(std::string("fish-") + name + ".png", std::move(pixels), false));
        fish.materials.push_back(std::move(material));
    };
    wears("paper", painted(512, paperAt), 0.7f, {0.16f, 0.08f, 0.02f});
    wears("rib", woodPicture(256, 4, 0.8f), 0.8f, {});
    wears("silk", painted(256, silkAt), 0.6f, {0.06f, 0.03f, 0});
    wears("glass",
          painted(64,
                  [](float u, float v) {
                      const float far = glm::length(glm::vec2((std::abs(u - 0.5f) - 0.25f) * 2, v - 0.5f));
                      return far < 0.2f ? glm::vec3(0.04f, 0.05f, 0.06f) : glm::vec3(0.93f, 0.90f, 0.78f);
                  }),
          0.15f, {});
    wears("rider cloth", clothPicture(256), 0.9f, {});

    fish.nodes.push_back({"rig", -1, glm::scale(glm::dmat4(1.0), glm::dvec3(1 / drawnIn))});
    const int first = addBones(fish, bones(), 0, "fish");
    Jointed body;
    bodyOf(body), finsOf(body);
    fish.meshes.push_back(std::make_shared<const Mesh>(body.take("fish", 0.6)));
    fish.nodes.push_back({"fish", 0, glm::dmat4(1.0), 0, 0});
    fish.meshes.push_back(std::make_shared<const Mesh>(rider()));
    fish.nodes.push_back({"rider doll", first + Rider, glm::dmat4(1.0), 1});
    fish.clips = {swim(first), glide(first), startle(first)};
    return fish;
}

} // namespace lantern_fish

Model lanternFish() {
    return lantern_fish::made();
}

} // namespace zl::demo
