#pragma once
#include "core/avatar/keys.h"
#include "core/figure/figure.h"
#include "support/ran_step.h"

#include <glm/gtc/matrix_transform.hpp>

/// A figure with faces of these names, each moving its own corners of the head by its own way. No set-up yet.
inline zl::Model figureWithFaces(const std::vector<std::string>& names) {
    using namespace zl;
    Model model = figure::figureOf(figure::kindNamed("grown-a"));
    for (Node& node : model.nodes) {
        if (node.mesh < 0) continue;
        Mesh mesh = *model.meshes[std::size_t(node.mesh)];
        float top = 0;
        for (const glm::vec3& p : mesh.positions) top = std::max(top, p.y);
        for (std::size_t m = 0; m < names.size(); ++m) {
            MorphTarget morph{names[m], std::vector<glm::vec3>(mesh.positions.size(), glm::vec3(0)), {}};
            for (std::size_t v = 0; v < mesh.positions.size(); ++v) // a band of the head each
                if (const float down = top - mesh.positions[v].y;
                    down >= 0.03f * float(m) && down < 0.03f * float(m + 1))
                    morph.positions[v] = {0.01f * float(m + 1), 0.02f, m % 2 ? 0.015f : -0.015f};
            mesh.morphs.push_back(std::move(morph));
        }
        model.meshes[std::size_t(node.mesh)] = std::make_shared<const Mesh>(std::move(mesh));
    }
    return model;
}

/// The same set up as an avatar, with a spring on its left arm, a collider, a constraint, and a licence.
inline zl::Model avatarFigure() {
    using namespace zl;
    Model model = ranStep(figureWithFaces({"aa", "blink", "happy", "angry", "sad", "surprised"}),
                          "avatar-setup", nlohmann::json::object())
                      .model;
    Avatar own = *model.avatar;
    const int hand = avatar::boneOf(model, "leftHand"), arm = avatar::boneOf(model, "leftLowerArm"),
              head = avatar::boneOf(model, "head"), other = avatar::boneOf(model, "rightLowerArm");
    own.colliders = {{avatar::keyOf(model, head), {0, 0.1, 0.02}, std::nullopt, 0.12},
                     {avatar::keyOf(model, arm), {0, 0, 0}, glm::dvec3(0.1, 0, 0), 0.05}};
    own.groups = {{"round the head", {0, 1}}};
    own.springs = {{"cuff",
                    {{.node = avatar::keyOf(model, arm), .radius = 0.01, .stiffness = 0.7, .gravity = 0.1},
                     {.node = avatar::keyOf(model, hand)}},
                    {0},
                    0}};
    own.constraints = {{avatar::keyOf(model, other), avatar::keyOf(model, arm), "roll", "X", 0.5}};
    own.seen = {{avatar::keyOf(model, shownNodes(model)[0]), "thirdPersonOnly"}};
    own.expressions.push_back(
        {.name = "wink",
         .custom = true,
         .binary = true,
         .morphs = {{0, "blink", 0.5}},
         .colours = {{model.materials.empty() ? "" : model.materials[0].name, "color", {1, 0.5, 0.25, 1}}},
         .blink = Expression::Override::Block,
         .mouth = Expression::Override::Blend});
    if (model.materials.empty()) own.expressions.back().colours.clear();
    own.lookAt->up = {60, 12};
    own.licence = {{"name", "Quay hand"},
                   {"authors", {"Mira Quill"}},
                   {"licenseUrl", "https://bergamot.example/licence"},
                   {"avatarPermission", "everyone"},
                   {"allowRedistribution", true}};
    model.avatar = std::make_shared<const Avatar>(std::move(own));
    return model;
}
