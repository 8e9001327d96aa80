// A steam roller that rolls the quay flat before the fair: a vehicle for blocks, with a flywheel on one side.
#include "demo_data.h"
#include "solids.h"

#include <cmath>

namespace zl::demo {

namespace {

// Materials by their order.
constexpr int paintGreen = 0, sootBlack = 1, wornIron = 2, oakPlanks = 3, canopyCanvas = 4;

Mesh steamEngine() {
    Solids out;
    out.wear(paintGreen).bar({0, 1.55, -0.7}, {0, 1.55, 1.75}, 0.55, 28);
    out.box({0, 1.5, -0.95}, {0.6, 0.75, 0.35}); // around the fire
    out.wear(sootBlack).bar({0, 1.55, 1.75}, {0, 1.55, 2.3}, 0.62, 28);
    for (const double z : {-0.2, 0.6, 1.4}) out.bar({0, 1.55, z}, {0, 1.55, z + 0.06}, 0.575, 28);
    out.turned({{0.17, 0}, {0.17, 1.0}, {0.24, 1.08}, {0.24, 1.25}, {0.14, 1.25}, {0.14, 0}}, {0, 2.1, 2.05},
               1, 20);
    out.wear(wornIron).box({0, 2.2, 0.9}, {0.24, 0.22, 0.5}); // the cylinder on top
    return out.take("engine");
}

Mesh rollerRolls() {
    Solids out;
    out.wear(wornIron).bar({-0.78, 0.62, 2.15}, {-0.01, 0.62, 2.15}, 0.62, 32);
    out.bar({0.01, 0.62, 2.15}, {0.78, 0.62, 2.15}, 0.62, 32);
    for (const double side : {-1.0, 1.0})
        out.bar({side * 0.72, 0.86, -0.9}, {side * 1.08, 0.86, -0.9}, 0.86, 36);
    out.wear(sootBlack).bar({-1.2, 0.86, -0.9}, {1.2, 0.86, -0.9}, 0.09, 12);
    out.bar({-0.9, 0.62, 2.15}, {0.9, 0.62, 2.15}, 0.06, 12);
    return out.take("rolls");
}

Mesh rollerFrame() {
    Solids out;
    out.wear(sootBlack);
    for (const double side : {-1.0, 1.0}) {
        out.box({side * 0.86, 0.85, 2.15}, {0.05, 0.3, 0.12}); // the fork
        out.box({side * 0.62, 1.15, -1.2}, {0.05, 0.45, 0.75});
    }
    out.box({0, 1.18, 2.15}, {0.91, 0.06, 0.16}).box({0, 1.3, 2.15}, {0.12, 0.16, 0.12});
    out.wear(oakPlanks).box({0, 0.75, -1.65}, {0.62, 0.05, 0.55}); // what the driver stands on
    out.wear(paintGreen).box({0, 1.15, -2.15}, {0.6, 0.4, 0.08}).box({0, 0.95, -2.0}, {0.58, 0.2, 0.2});
    return out.take("frame");
}

Mesh rollerCanopy() {
    Solids out;
    out.wear(sootBlack);
    for (const double side : {-1.0, 1.0})
        for (const double z : {-2.0, 0.2}) out.bar({side * 0.66, 1.3, z}, {side * 0.66, 3.02, z}, 0.09, 8);
    out.wear(canopyCanvas).box({0, 3.05, -0.9}, {0.95, 0.035, 1.4});
    return out.take("canopy");
}

Mesh rollerFlywheel() {
    Solids out;
    out.wear(wornIron).ring({-0.8, 2.05, 0.1}, {0, 0.52, 0}, {0, 0, 0.52}, 0.06, 28);
    for (int spoke = 0; spoke < 3; ++spoke) {
        const double angle = 1.0471975511965976 * spoke;
        const glm::dvec3 along(0, 0.5 * std::cos(angle), 0.5 * std::sin(angle));
        out.bar(glm::dvec3(-0.8, 2.05, 0.1) - along, glm::dvec3(-0.8, 2.05, 0.1) + along, 0.03, 6);
    }
    out.bar({-0.85, 2.05, 0.1}, {0.3, 2.05, 0.1}, 0.05, 10);
    return out.take("flywheel");
}

Mesh rollerRods() {
    Solids out; // too thin for blocks
    out.wear(sootBlack).bar({0.25, 1.2, -1.5}, {0.25, 2.1, -1.2}, 0.015, 6);
    out.ring({0.25, 2.12, -1.2}, {0.2, 0, 0}, {0, 0.06, 0.19}, 0.012, 20);
    for (const double side : {-1.0, 1.0}) out.bar({side * 0.3, 0.9, -0.3}, {side * 0.7, 0.95, 2.1}, 0.015, 6);
    return out.take("rods");
}

} // namespace

Model steamRoller() {
    Model out;
    out.name = "steam-roller";
    const auto paint = [&](const char* name, const glm::vec4& colour, float roughness, float metal = 0) {
        out.materials.push_back(
            {.name = name, .baseColour = colour, .metalness = metal, .roughness = roughness});
    };
    paint("engine green", {0.05f, 0.16f, 0.07f, 1}, 0.4f);
    paint("soot black", {0.02f, 0.02f, 0.02f, 1}, 0.7f);
    paint("worn iron", {0.36f, 0.36f, 0.38f, 1}, 0.5f, 0.6f);
    paint("oak planks", {0.28f, 0.16f, 0.07f, 1}, 0.8f);
    paint("canopy canvas", {0.72f, 0.62f, 0.42f, 1}, 0.9f);
    for (const auto& make :
         {steamEngine, rollerRolls, rollerFrame, rollerCanopy, rollerFlywheel, rollerRods}) {
        Mesh mesh = make();
        const std::string name = mesh.name;
        addNode(out, name, -1, glm::dmat4(1.0), std::move(mesh));
    }
    return out;
}

} // namespace zl::demo
