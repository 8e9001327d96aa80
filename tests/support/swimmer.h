#pragma once
#include "core/texture/picture_file.h"
#include "support/shapes.h"

#include <glm/gtc/quaternion.hpp>

/// A skinned ball on two bones below a stand, a rider on a bone, and two clips.
inline zl::Model swimmer(int edge = 64, int around = 16) {
    using namespace zl;
    Model model;
    model.name = "fish";
    model.frame.unitAssumed = model.frame.upAssumed = false;
    model.headingKnown = true;
    model.nodes = {{"stand", -1, glm::translate(glm::dmat4(1), {0.0, 0.6, 0.0})},
                   {"front", 0, glm::dmat4(1)},
                   {"tail", 1, glm::translate(glm::dmat4(1), {0.0, 0.0, -0.4})},
                   {"rider", 1, glm::translate(glm::dmat4(1), {0.0, 0.6, 0.0})},
                   {"doll", 3, glm::dmat4(1), 1},
                   {"body", -1, glm::dmat4(1), 0, 0}};
    model.skins = {
        {"rig",
         {1, 2},
         {glm::translate(glm::mat4(1), {0, -0.6f, 0}), glm::translate(glm::mat4(1), {0, -0.6f, 0.4f})},
         1}};
    Mesh mesh = shapes::sphere(around, around, 0.6);
    for (glm::vec3& p : mesh.positions) {
        p.y += 0.6f;
        const float back = glm::clamp(0.5f - p.z, 0.0f, 1.0f);
        mesh.joints.emplace_back(0, 1, 0, 0);
        mesh.weights.emplace_back(1 - back, back, 0, 0);
    }
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
    Mesh doll = shapes::sphere(8, 6, 0.2);
    doll.runs = {{0, std::uint32_t(doll.triangleCount()), 1}};
    model.meshes = {std::make_shared<const Mesh>(mesh), std::make_shared<const Mesh>(doll)};
    Pixels pixels{edge, edge, {}};
    for (int p = 0; p < edge * edge; ++p)
        pixels.rgba.insert(pixels.rgba.end(), {std::uint8_t(p % edge * 255 / edge),
                                               std::uint8_t(p / edge * 255 / edge), 90, 255});
    model.images = {texture::pictureFromPixels("scales.png", pixels, false)};
    model.materials = {{.name = "paper"}, {.name = "cloth"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    const glm::quat q = glm::angleAxis(0.6f, glm::vec3(0, 1, 0));
    Channel beat{2,
                 Channel::Target::Rotation,
                 Channel::Curve::Linear,
                 {0, 0.25f, 0.5f},
                 {0, 0, 0, 1, q.x, q.y, q.z, q.w, 0, 0, 0, 1}};
    Channel bob{0,
                Channel::Target::Translation,
                Channel::Curve::Linear,
                {0, 0.25f, 0.5f},
                {0, 0.6f, 0, 0, 0.7f, 0, 0, 0.6f, 0}};
    model.clips = {std::make_shared<const Clip>(Clip{"swim", {beat, bob}}),
                   std::make_shared<const Clip>(Clip{"hop", {bob}})};
    return model;
}
