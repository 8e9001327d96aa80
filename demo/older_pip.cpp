// Pip as it was worn last year: an avatar that is set up to the last lid, with a tassel that swings.
#include "demo_data.h"
#include "jointed.h"

#include "core/avatar/keys.h"
#include "core/avatar/licence.h"
#include "core/avatar/proposed.h"
#include "core/model/avatar.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <array>

namespace zl::demo {

namespace {

constexpr std::array<std::string_view, 4> names{"tassel.1", "tassel.2", "tassel.3", "tassel.4"};
constexpr int tasselBones = int(names.size());

int named(const Model& model, std::string_view name) {
    const auto found = std::ranges::find(model.nodes, name, &Node::name);
    return int(found - model.nodes.begin());
}

/// A cord with a bob, from the back of the cap downward, on bones of its own.
void addTassel(Model& pip) {
    const int head = named(pip, "head");
    const glm::dvec3 top{0.205, 1.475, 0.03}, at(worldMatrices(pip)[std::size_t(head)][3]);
    constexpr double length = 0.075;
    std::vector<DrawnBone> bones;
    for (int k = 0; k < tasselBones; ++k)
        bones.push_back({names[std::size_t(k)], k - 1, top - glm::dvec3(0, k * length, 0)});
    const int first = addBones(pip, bones, head, "tassel");
    pip.nodes[std::size_t(first)].local = glm::translate(glm::dmat4(1), top - at);
    Jointed cord;
    const auto ring = [&](double down, double wide) {
        return Ring{top - glm::dvec3(0, down, 0), {0, 0, -wide}, {-wide, 0, 0}};
    };
    cord.wear(4).hang([=](const glm::dvec3& p) {
        const double along = std::clamp((top.y - p.y) / length, 0.0, double(tasselBones) - 1);
        const int above = std::min(int(along), tasselBones - 2);
        return Hung{above, above + 1, float(along - above)};
    });
    cord.tube({ring(0.21, 0), ring(0.21, 0.008), ring(0.10, 0.008), ring(-0.005, 0.008), ring(-0.005, 0)}, 8);
    cord.wear(1).ball(top - glm::dvec3(0, 0.225, 0), glm::dvec3(0.026, 0.036, 0.026), 10, 7);
    pip.meshes.push_back(std::make_shared<const Mesh>(cord.take("tassel")));
    pip.nodes.push_back({"tassel", named(pip, "pip"), glm::dmat4(1.0), int(pip.meshes.size()) - 1,
                         int(pip.skins.size()) - 1});
}

} // namespace

Model olderPip() {
    Model pip = pipTheWinder();
    pip.name = "pip-of-last-year";
    pip.clips.clear();
    addTassel(pip);
    Avatar avatar;
    for (const auto& [role, node] : avatar::proposedRoles(pip).named)
        avatar.bones[role] = avatar::keyOf(pip, node);
    const NodeKey face = avatar::keyOf(pip, named(pip, "face"));
    avatar.expressions = avatar::proposedExpressions(pip);
    for (Expression& e : avatar.expressions) {
        for (auto& bind : e.morphs) bind.node = face;
        if (e.name == "happy" || e.name == "surprised") e.mouth = Expression::Override::Blend;
    }
    // Set by hand, and nothing that a name would tell.
    avatar.expressions.push_back(
        {.name = "relaxed", .morphs = {{face, "happy", 0.45}, {face, "blink", 0.35}}});
    avatar.expressions.push_back({.name = "wink",
                                  .custom = true,
                                  .morphs = {{face, "blinkLeft", 1}, {face, "happy", 0.6}},
                                  .blink = Expression::Override::Block});
    avatar.lookAt =
        avatar::proposedLookAt(pip, named(pip, "head"), named(pip, "eye.left"), named(pip, "eye.right"));
    for (LookAt::Range* range : {&avatar.lookAt->inward, &avatar.lookAt->outward}) range->gives = 24;
    avatar.lookAt->up.gives = avatar.lookAt->down.gives = 16;
    avatar.seen = {{avatar::keyOf(pip, named(pip, "body")), "both"}, {face, "thirdPersonOnly"}};
    avatar.colliders = {
        {avatar::keyOf(pip, named(pip, "head")), {0, 0.16, 0}, std::nullopt, 0.19},
        {avatar::keyOf(pip, named(pip, "chest")), {0, -0.1, 0}, glm::dvec3(0, 0.12, 0), 0.17}};
    avatar.groups = {{"head and coat", {0, 1}}};
    Spring spring{"tassel", {}, {0}, 0};
    for (const std::string_view name : names)
        spring.joints.push_back({.node = avatar::keyOf(pip, named(pip, name)),
                                 .radius = 0.02,
                                 .stiffness = 0.35,
                                 .gravity = 0.25,
                                 .drag = 0.2});
    avatar.springs = {std::move(spring)};
    avatar.licence = {{"name", "Pip of last year"},
                      {"authors", {"Odd Fennel"}},
                      {"licenseUrl", avatar::standardLicence},
                      {"avatarPermission", "onlySeparatelyLicensedPerson"},
                      {"creditNotation", "required"}};
    pip.avatar = std::make_shared<const Avatar>(std::move(avatar));
    return pip;
}

} // namespace zl::demo
