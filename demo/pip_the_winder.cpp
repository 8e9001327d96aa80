// Pip the winder: a wind-up dock hand of painted tin on 22 bones, with a face of eight morph targets and
// three clips, of which one drifts as walks do that were drawn on a floor.
#include "demo_data.h"
#include "jointed.h"

#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <cmath>
#include <numbers>

namespace zl::demo {

namespace pip {

namespace {

using std::numbers::pi;

enum Bone {
    Hips,
    Spine,
    Chest,
    Neck,
    Head,
    EyeLeft,
    EyeRight,
    ShoulderLeft,
    UpperArmLeft,
    ForearmLeft,
    HandLeft,
    ShoulderRight,
    UpperArmRight,
    ForearmRight,
    HandRight,
    ThighLeft,
    ShinLeft,
    FootLeft,
    ThighRight,
    ShinRight,
    FootRight,
    Key
};

const std::vector<DrawnBone>& bones() {
    static const std::vector<DrawnBone> drawn{
        {"hips", -1, {0, 0.60, 0}},
        {"spine", Hips, {0, 0.73, 0}},
        {"chest", Spine, {0, 0.88, 0}},
        {"neck", Chest, {0, 1.06, 0}},
        {"head", Neck, {0, 1.11, 0}},
        {"eye.left", Head, {0.078, 1.275, 0.135}},
        {"eye.right", Head, {-0.078, 1.275, 0.135}},
        {"shoulder.left", Chest, {0.07, 1.0, 0}},
        {"upperarm.left", ShoulderLeft, {0.205, 1.0, 0}},
        {"forearm.left", UpperArmLeft, {0.40, 1.0, 0}},
        {"hand.left", ForearmLeft, {0.575, 1.0, 0}},
        {"shoulder.right", Chest, {-0.07, 1.0, 0}},
        {"upperarm.right", ShoulderRight, {-0.205, 1.0, 0}},
        {"forearm.right", UpperArmRight, {-0.40, 1.0, 0}},
        {"hand.right", ForearmRight, {-0.575, 1.0, 0}},
        {"thigh.left", Hips, {0.105, 0.565, 0}},
        {"shin.left", ThighLeft, {0.11, 0.335, 0.008}},
        {"foot.left", ShinLeft, {0.11, 0.095, -0.012}},
        {"thigh.right", Hips, {-0.105, 0.565, 0}},
        {"shin.right", ThighRight, {-0.11, 0.335, 0.008}},
        {"foot.right", ShinRight, {-0.11, 0.095, -0.012}},
        {"key", Chest, {0, 0.90, -0.185}},
    };
    return drawn;
}

glm::dvec3 placeOf(int bone) {
    return bones()[std::size_t(bone)].place;
}

enum Worn { Coat, Brass, Enamel, Eye, Tar };
enum Part { Plain, LidLeft, LidRight, BrowLeft, BrowRight, Mouth };

/// Hangs on the one or the other side of where bones meet, blended `within` metres of it along an axis.
Jointed::Hang between(int before, int behind, int axis, double sign, double within) {
    const double at = placeOf(behind)[axis];
    return [=](const glm::dvec3& p) {
        return Hung{before, behind, float(eased(sign * (p[axis] - at), -within, within))};
    };
}

Ring upward(double y, double wide, double deep, double forward = 0) {
    return {{0, y, forward}, {0, 0, -deep}, {-wide, 0, 0}};
}

void trunk(Jointed& tin) {
    tin.wear(Coat).hang([](const glm::dvec3& p) {
        return p.y < 0.80 ? Hung{Hips, Spine, float(eased(p.y, 0.66, 0.76))}
                          : Hung{Spine, Chest, float(eased(p.y, 0.82, 0.92))};
    });
    tin.tube({upward(0.535, 0, 0), upward(0.535, 0.120, 0.095), upward(0.565, 0.165, 0.130),
              upward(0.64, 0.182, 0.145), upward(0.665, 0.190, 0.152), upward(0.685, 0.183, 0.146),
              upward(0.77, 0.194, 0.158), upward(0.87, 0.200, 0.164), upward(0.96, 0.188, 0.152),
              upward(1.035, 0.145, 0.118), upward(1.065, 0.085, 0.080), upward(1.065, 0, 0)},
             18);
    tin.wear(Brass).hangOn(Neck).tube({upward(1.055, 0.072, 0.070), upward(1.075, 0.078, 0.076),
                                       upward(1.10, 0.066, 0.064), upward(1.115, 0.070, 0.068)},
                                      12);
    // Two rows of buttons.
    tin.hangOn(Chest);
    for (const double side : {-1.0, 1.0})
        for (const double y : {0.90, 0.965}) {
            const glm::dvec3 at{side * 0.062, y, y > 0.93 ? 0.142 : 0.155};
            tin.ball(at, {0.016, 0.016, 0.012}, 8, 4);
        }
    // The key on the back, a stem with two leaves.
    const glm::dvec3 key = placeOf(Key);
    tin.hangOn(Key).tube({{key + glm::dvec3(0, 0, 0.05), {-0.016, 0, 0}, {0, 0.016, 0}},
                          {key - glm::dvec3(0, 0, 0.10), {-0.016, 0, 0}, {0, 0.016, 0}},
                          {key - glm::dvec3(0, 0, 0.10), {}, {}}},
                         8);
    for (const double side : {-1.0, 1.0}) {
        std::vector<Ring> leaf;
        for (const auto& [out, tall] : {std::pair{0.012, 0.0},
                                        {0.012, 0.014},
                                        {0.05, 0.044},
                                        {0.085, 0.052},
                                        {0.115, 0.036},
                                        {0.125, 0.0}})
            leaf.push_back({key + glm::dvec3(side * out, 0, -0.075),
                            {0, tall, 0},
                            {0, 0, side * (tall > 0 ? 0.011 : 0)}});
        tin.tube(leaf, 8);
    }
}

void headAndCap(Jointed& tin) {
    tin.wear(Enamel).hangOn(Head);
    std::vector<Ring> head;
    for (int k = 0; k <= 9; ++k) {
        const double a = pi * (0.10 + 0.72 * k / 9), r = std::pow(std::sin(a), 0.8);
        head.push_back(upward(1.285 - 0.198 * std::cos(a), 0.190 * r, 0.180 * r));
    }
    head.insert(head.begin(), upward(head.front().middle.y, 0, 0));
    head.push_back(upward(head.back().middle.y, 0, 0));
    tin.tube(head, 18);
    tin.wear(Coat).ball({0, 1.235, 0.187}, {0.026, 0.024, 0.030}, 8, 6); // a nose of painted wood
    tin.wear(Brass);
    for (const double side : {-1.0, 1.0}) // the ears are screws
        tin.tube({{{side * 0.180, 1.26, 0}, {0, 0.034, 0}, {0, 0, side * 0.034}},
                  {{side * 0.206, 1.26, 0}, {0, 0.034, 0}, {0, 0, side * 0.034}},
                  {{side * 0.206, 1.26, 0}, {}, {}}},
                 10);
    // The cap: band, crown, and a brim over the brow.
    tin.wear(Tar).tube({upward(1.395, 0.172, 0.165), upward(1.440, 0.166, 0.158)}, 18);
    tin.wear(Coat).tube({upward(1.435, 0.162, 0.154), upward(1.450, 0.205, 0.198, -0.004),
                         upward(1.492, 0.212, 0.204, -0.008), upward(1.516, 0.150, 0.142, -0.010),
                         upward(1.522, 0, 0, -0.010)},
                        18);
    tin.wear(Tar);
    const auto brim = [](double lift) {
        return [lift](double u, double v) {
            const double a = (u - 0.5) * 2.0;
            const glm::dvec3 in{0.168 * std::sin(a), 1.402, 0.160 * std::cos(a)},
                out{0.190 * std::sin(a), 1.378, 0.160 * std::cos(a) + 0.085 * std::cos(a)};
            return glm::mix(out, in, v) + glm::dvec3(0, lift, 0);
        };
    };
    tin.sheet(8, 1, brim(0.005));
    tin.sheet(8, 1, [under = brim(-0.005)](double u, double v) { return under(1 - u, v); });
    tin.sheet(8, 1, [over = brim(0.005), under = brim(-0.005)](double u, double v) {
        return glm::mix(under(u, 0), over(u, 0), v);
    });
}

/// A lid's turn about the middle of its eye: open at rest, down over it when it is shut.
glm::dvec3 shutLid(const glm::dvec3& p, const glm::dvec3& eye, double share) {
    const glm::dmat4 turn = glm::rotate(glm::dmat4(1.0), 1.25 * share, glm::dvec3(1, 0, 0));
    const glm::dvec3 to = eye + glm::dvec3(turn * glm::dvec4(p - eye, 0));
    // Halfway there a straight line would cut through the eye; what is shut lies a little farther out.
    return to + 0.006 * glm::normalize(to - eye) - p;
}

void face(Jointed& tin) {
    for (const bool left : {true, false}) {
        const glm::dvec3 eye = placeOf(left ? EyeLeft : EyeRight);
        tin.wear(Eye).hangOn(left ? EyeLeft : EyeRight).ball(eye, glm::dvec3(0.046), 12, 8);
        tin.wear(Coat, {0.1, 0.1, 0.3, 0.2}, left ? LidLeft : LidRight).hangOn(Head);
        tin.sheet(10, 5, [&](double u, double v) { // a cap of a ball, leaning back over the eye
            const double across = (u - 0.5) * pi * 0.98, up = 0.55 + v * 2.0;
            const double r = 0.0505;
            return eye + r * glm::dvec3(std::sin(across) * std::cos(up * 0.35),
                                        std::sin(up) * std::cos(across * 0.6),
                                        std::cos(across) * std::cos(up));
        });
        tin.wear(Tar, {0, 0, 1, 1}, left ? BrowLeft : BrowRight);
        std::vector<Ring> brow;
        for (int k = 0; k <= 5; ++k) {
            const double t = k / 5.0, thick = k == 0 || k == 5 ? 0 : 0.010;
            const double x = (left ? 1 : -1) * (0.035 + 0.09 * t);
            brow.push_back({{x, 1.345 + 0.012 * std::sin(pi * t), 0.172 - 0.045 * t},
                            {0, 0, thick * 0.8},
                            {0, (left ? -1 : 1) * thick, 0}});
        }
        tin.tube(brow, 6);
    }
    tin.wear(Tar, {0, 0, 1, 1}, Mouth).hangOn(Head);
    tin.sheet(12, 4, [](double u, double v) {
        const double a = (u - 0.5) * 0.74, down = std::cos(pi * (u - 0.5));
        return glm::dvec3(0.178 * std::sin(a), 1.178 + 0.016 * (v - 0.5) * down - 0.006 * down,
                          0.176 * std::cos(a) - 0.004);
    });
}

void expressions(Jointed& tin) {
    const auto lids = [&](const char* name, bool left, double share) {
        tin.morph(name, {left ? LidLeft : LidRight}, [=](const glm::dvec3& p, double, double) {
            return shutLid(p, placeOf(left ? EyeLeft : EyeRight), share);
        });
    };
    /// Moves the brows up, and their inner ends apart from the outer ones; mouth: corners up, lips apart.
    const auto brows = [&](const char* name, double lift, double innerLift) {
        tin.morph(name, {BrowLeft, BrowRight}, [=](const glm::dvec3&, double, double v) {
            return glm::dvec3(0, lift + innerLift * (1 - v), 0);
        });
    };
    const auto mouth = [&](const char* name, double corners, double apart, double narrow) {
        tin.morph(name, {Mouth}, [=](const glm::dvec3& p, double u, double v) {
            const double out = std::abs(2 * u - 1), middle = std::cos(pi * (u - 0.5));
            return glm::dvec3(-narrow * p.x, corners * out * out - apart * (1 - v) * middle,
                              -0.006 * apart / 0.05 * (1 - v) * middle);
        });
    };
    lids("blink", true, 1), lids("blink", false, 1);
    lids("blinkLeft", true, 1), lids("blinkRight", false, 1);
    brows("happy", 0.010, 0), mouth("happy", 0.026, 0.022, 0);
    brows("angry", 0.004, -0.026), mouth("angry", -0.010, 0.004, 0.15);
    brows("sad", -0.004, 0.026), mouth("sad", -0.022, 0, 0.1);
    brows("surprised", 0.026, 0), mouth("surprised", 0, 0.050, 0.45);
    mouth("aa", 0, 0.044, 0.2);
}

void limbs(Jointed& tin) {
    for (const bool left : {true, false}) {
        const double s = left ? 1 : -1;
        const int shoulder = left ? ShoulderLeft : ShoulderRight, upper = shoulder + 1, fore = shoulder + 2,
                  hand = shoulder + 3, thigh = left ? ThighLeft : ThighRight, shin = thigh + 1,
                  foot = thigh + 2;
        const auto across = [&](double x, double r) {
            return Ring{{s * x, 1.0, 0}, {0, 0, r}, {0, -s * r, 0}};
        };
        tin.wear(Coat).hang([=](const glm::dvec3& p) {
            const double x = s * p.x;
            return x < 0.30 ? Hung{shoulder, upper, float(eased(x, 0.175, 0.235))}
                            : Hung{upper, fore, float(eased(x, 0.36, 0.44))};
        });
        tin.tube({across(0.155, 0), across(0.155, 0.050), across(0.19, 0.066), across(0.235, 0.062),
                  across(0.29, 0.050), across(0.345, 0.046), across(0.38, 0.048), across(0.40, 0.050),
                  across(0.42, 0.048), across(0.47, 0.044), across(0.53, 0.052), across(0.545, 0)},
                 12);
        tin.wear(Brass).hangOn(fore).tube({across(0.525, 0.056), across(0.55, 0.058), across(0.55, 0)}, 12);
        // A mitten with a thumb to the front.
        tin.wear(Tar).hang(between(fore, hand, 0, s, 0.012));
        const auto palm = [&](double x, double deep, double tall) {
            return Ring{{s * x, 1.0, 0.004}, {0, 0, deep}, {0, -s * tall, 0}};
        };
        tin.tube({palm(0.55, 0.034, 0.030), palm(0.575, 0.040, 0.030), palm(0.62, 0.054, 0.028),
                  palm(0.67, 0.052, 0.025), palm(0.71, 0.034, 0.020), palm(0.725, 0, 0)},
                 10);
        tin.hangOn(hand).ball({s * 0.608, 0.998, 0.062}, {0.022, 0.020, 0.036}, 8, 5);

        const double x = s * 0.11;
        const auto down = [&](double y, double r, double forward = 0) {
            return Ring{{x, y, forward}, {0, 0, r}, {-r, 0, 0}};
        };
        tin.wear(Coat).hang([=](const glm::dvec3& p) {
            return p.y > 0.45 ? Hung{Hips, thigh, float(eased(0.6 - p.y, 0, 0.06))}
                              : Hung{thigh, shin, float(eased(0.335 - p.y, -0.045, 0.045))};
        });
        tin.tube({down(0.60, 0), down(0.60, 0.055), down(0.555, 0.076), down(0.48, 0.072), down(0.41, 0.062),
                  down(0.36, 0.060, 0.004), down(0.335, 0.063, 0.008), down(0.31, 0.060, 0.004),
                  down(0.25, 0.062), down(0.185, 0.074), down(0.175, 0.0)},
                 12);
        tin.wear(Tar).hang([=](const glm::dvec3& p) {
            return Hung{shin, foot, float(eased(0.11 - p.y, -0.02, 0.03))};
        });
        const auto boot = [&](double y, double wide, double deep, double forward) {
            return Ring{{x, y, forward}, {0, 0, deep}, {-wide, 0, 0}};
        };
        tin.tube({boot(0.195, 0, 0, 0), boot(0.195, 0.062, 0.062, 0), boot(0.13, 0.062, 0.066, 0),
                  boot(0.095, 0.068, 0.092, 0.026), boot(0.060, 0.074, 0.122, 0.050),
                  boot(0.022, 0.076, 0.130, 0.056), boot(0.0, 0.072, 0.124, 0.054), boot(0, 0, 0, 0.054)},
                 12);
    }
}

/// Blue paint on tin with an orange band, rubbed at its seams.
glm::vec3 coatAt(float u, float v) {
    const float worn = layeredNoise(u * 6, v * 6, 6, 51, 5);
    glm::vec3 c = glm::mix(glm::vec3(0.10f, 0.33f, 0.44f), glm::vec3(0.16f, 0.44f, 0.52f),
                           layeredNoise(u * 4, v * 4, 4, 8, 3));
    if (std::abs(v - 0.70f) < 0.045f) c = {0.93f, 0.55f, 0.13f};
    const float seam = std::min({std::abs(u - 0.25f), std::abs(u - 0.75f), std::abs(v - 0.5f)});
    if (seam < 0.012f) c *= 0.72f;
    return worn > 0.66f ? glm::mix(c, glm::vec3(0.62f, 0.60f, 0.55f), 0.55f) : c;
}

/// Cream enamel with red cheeks in front (u a half) and hairline cracks.
glm::vec3 enamelAt(float u, float v) {
    glm::vec3 c = glm::vec3(0.96f, 0.87f, 0.72f) * (0.95f + 0.07f * layeredNoise(u * 5, v * 5, 5, 3, 4));
    for (const float side : {-1.0f, 1.0f}) {
        const float far = glm::length(glm::vec2((u - 0.5f - side * 0.095f) * 1.6f, v - 0.62f));
        c = glm::mix(c, glm::vec3(0.90f, 0.42f, 0.32f), 0.75f * (1 - float(eased(far, 0.02, 0.085))));
    }
    return c;
}

glm::vec3 eyeAt(float u, float v) {
    const float far = glm::length(glm::vec2((u - 0.5f) * 2, v - 0.5f));
    if (glm::length(glm::vec2((u - 0.47f) * 2, v - 0.44f)) < 0.045f) return glm::vec3(1);
    if (far < 0.09f) return glm::vec3(0.05f, 0.05f, 0.07f);
    if (far < 0.21f)
        return glm::mix(glm::vec3(0.30f, 0.50f, 0.20f), glm::vec3(0.12f, 0.28f, 0.14f), far / 0.21f);
    return glm::vec3(0.97f, 0.96f, 0.93f);
}

glm::vec3 tarAt(float u, float v) {
    return glm::mix(glm::vec3(0.16f, 0.12f, 0.10f), glm::vec3(0.27f, 0.20f, 0.16f),
                    layeredNoise(u * 8, v * 8, 8, 29, 4));
}

/// Arms hang down before they swing: forward by `swing` degrees, away from the body by `out`.
glm::dquat hanging(bool left, double swing, double out) {
    const double side = left ? 1 : -1;
    return glm::angleAxis(glm::radians(-swing), glm::dvec3(1, 0, 0)) *
           glm::angleAxis(glm::radians(side * (out - 80)), glm::dvec3(0, 0, 1));
}

std::shared_ptr<const Clip> idle(int first, int faceNode) {
    Sampled clip("idle", 2.4, 30);
    clip.place(first + Hips, [](double t) { return placeOf(Hips) + glm::dvec3(0, 0.006 * wave(t), 0); });
    clip.turn(first + Spine, [](double t) { return degrees(1.5 * wave(t)); });
    clip.turn(first + Chest, [](double t) { return degrees(1.5 * wave(t, -0.1), 3 * wave(t, 0.2)); });
    clip.turn(first + Head, [](double t) { return degrees(-2 * wave(t), 12 * wave(t, 0.25), 3 * wave(t)); });
    for (const bool left : {true, false}) {
        const int shoulder = first + (left ? ShoulderLeft : ShoulderRight);
        clip.turn(shoulder + 1, [=](double t) { return hanging(left, 2 * wave(t), 6 + 1.5 * wave(t, 0.1)); });
        clip.turn(shoulder + 2, [=](double t) { return degrees(0, (left ? -1 : 1) * (14 + 2 * wave(t))); });
    }
    clip.turn(first + Key, [](double t) { return degrees(0, 0, 360 * t); });
    clip.weights(faceNode, 8, [](double t) {
        const float shut = float(std::exp(-std::pow((t - 0.62) / 0.022, 2)));
        return std::vector<float>{shut, 0, 0, 0.25f};
    });
    return clip.take();
}

/// Two steps in 1.2 s, 1.84 m forward. It ends a little before it comes round, so that it does not close.
std::shared_ptr<const Clip> walk(int first) {
    Sampled clip("walk", 1.2, 30);
    const auto round = [](double t) { return 0.985 * t; };
    clip.place(first + Hips, [=](double t) {
        return placeOf(Hips) + glm::dvec3(0.012 * wave(round(t)), 0.018 * wave(2 * round(t), -0.2), 1.84 * t);
    });
    clip.turn(first + Hips, [=](double t) { return degrees(3, 6 * wave(round(t)), 2 * wave(round(t))); });
    clip.turn(first + Chest, [=](double t) { return degrees(2, -10 * wave(round(t))); });
    clip.turn(first + Head, [=](double t) { return degrees(-4, 5 * wave(round(t))); });
    for (const bool left : {true, false}) {
        const double phase = left ? 0 : 0.5;
        const int shoulder = first + (left ? ShoulderLeft : ShoulderRight),
                  thigh = first + (left ? ThighLeft : ThighRight);
        clip.turn(shoulder + 1, [=](double t) { return hanging(left, -28 * wave(round(t), phase), 8); });
        clip.turn(shoulder + 2,
                  [=](double t) { return degrees(0, (left ? -1 : 1) * (24 - 10 * wave(round(t), phase))); });
        clip.turn(thigh, [=](double t) { return degrees(-30 * wave(round(t), phase)); });
        clip.turn(thigh + 1, [=](double t) { return degrees(22 + 20 * wave(round(t), phase + 0.30)); });
        clip.turn(thigh + 2, [=](double t) { return degrees(-8 * wave(round(t), phase + 0.2)); });
    }
    clip.turn(first + Key, [=](double t) { return degrees(0, 0, 720 * t); });
    return clip.take();
}

/// Bends down, takes hold, and lifts over the head.
std::shared_ptr<const Clip> heave(int first, int faceNode) {
    Sampled clip("heave", 1.8, 30);
    const auto down = [](double t) { return eased(t, 0, 0.28) * (1 - eased(t, 0.38, 0.66)); };
    const auto up = [](double t) { return eased(t, 0.40, 0.70) * (1 - eased(t, 0.84, 1.0)); };
    clip.place(first + Hips,
               [=](double t) { return placeOf(Hips) + glm::dvec3(0, -0.075 * down(t), -0.06 * down(t)); });
    clip.turn(first + Spine, [=](double t) { return degrees(34 * down(t) - 6 * up(t)); });
    clip.turn(first + Chest, [=](double t) { return degrees(26 * down(t) - 8 * up(t)); });
    clip.turn(first + Head, [=](double t) { return degrees(-20 * down(t) - 14 * up(t)); });
    for (const bool left : {true, false}) {
        const int shoulder = first + (left ? ShoulderLeft : ShoulderRight),
                  thigh = first + (left ? ThighLeft : ThighRight);
        clip.turn(shoulder + 1,
                  [=](double t) { return hanging(left, 30 * down(t) + 165 * up(t), 6 + 6 * up(t)); });
        clip.turn(shoulder + 2,
                  [=](double t) { return degrees(0, (left ? -1 : 1) * (12 + 20 * down(t) - 6 * up(t))); });
        clip.turn(thigh, [=](double t) { return degrees(-38 * down(t)); });
        clip.turn(thigh + 1, [=](double t) { return degrees(62 * down(t)); });
        clip.turn(thigh + 2, [=](double t) { return degrees(-24 * down(t)); });
    }
    clip.turn(first + Key, [](double t) { return degrees(0, 0, 360 * eased(t, 0.1, 0.9)); });
    clip.weights(faceNode, 8, [=](double t) {
        return std::vector<float>{0, 0, 0, float(up(t)), float(down(t))};
    });
    return clip.take();
}

} // namespace

Model made() {
    Model pip;
    pip.name = "pip-the-winder";
    pip.frame.unitAssumed = pip.frame.upAssumed = false;
    pip.headingKnown = true;
    const auto wears = [&](const char* name, Pixels pixels, float metal, float rough) {
        Material material{.name = name, .baseColour = {1, 1, 1, 1}, .metalness = metal, .roughness = rough};
        material.picture(PictureRole::Colour).image = int(pip.images.size());
        pip.images.push_back(
            texture::pictureFromPixels(std::string("pip-") + name + ".png", std::move(pixels), false));
        pip.materials.push_back(std::move(material));
    };
    wears("coat", painted(256, coatAt), 0.1f, 0.45f);
    wears("brass", bronzePicture(128), 0.6f, 0.4f);
    wears("enamel", painted(256, enamelAt), 0, 0.3f);
    wears("eye", painted(64, eyeAt), 0, 0.15f);
    wears("tar", painted(64, tarAt), 0, 0.8f);

    Jointed body, head;
    trunk(body), limbs(body);
    headAndCap(head), face(head), expressions(head);
    const int root = int(pip.nodes.size());
    pip.nodes.push_back({"pip", -1, glm::dmat4(1.0)});
    const int first = addBones(pip, bones(), root, "pip");
    const auto show = [&](const char* name, Mesh mesh) {
        pip.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
        Node node{name, root, glm::dmat4(1.0), int(pip.meshes.size()) - 1, 0};
        pip.nodes.push_back(node);
        return int(pip.nodes.size()) - 1;
    };
    show("body", body.take("body"));
    const int faceNode = show("face", head.take("face"));
    pip.clips = {idle(first, faceNode), walk(first), heave(first, faceNode)};
    return pip;
}

} // namespace pip

Model pipTheWinder() {
    return pip::made();
}

} // namespace zl::demo
