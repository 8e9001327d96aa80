#include "rough_avatar.h"

#include "rough_model.h"

#include "core/avatar/roles.h"
#include "core/model/avatar.h"

namespace torture {

using namespace zl;

void makeRoughAvatar(Model& model, Dice& dice) {
    Avatar avatar;
    std::vector<std::string> morphs{"gone"};
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (dice.chance(0.8)) model.nodes[n].key = dice.chance(0.1) ? 1 : int(n) + 1; // some twice
        if (model.nodes[n].mesh < 0) continue;
        for (const MorphTarget& morph : model.meshes[std::size_t(model.nodes[n].mesh)]->morphs)
            morphs.push_back(morph.name);
    }
    const auto key = [&] {
        return dice.chance(0.1) ? dice.between(-5, 9999) : dice.between(0, int(model.nodes.size()));
    };
    const auto place = [&] {
        return glm::dvec3(dice.between(-1.0, 1.0), dice.between(-1.0, 1.0), dice.between(-1.0, 1.0));
    };
    for (const avatar::Role& role : avatar::allRoles())
        if (dice.chance(0.5)) avatar.bones[std::string(role.name)] = key();
    for (int e = dice.between(0, 6); e-- > 0;) {
        Expression made{.name = dice.chance(0.7) ? std::string(dice.of(avatar::standardExpressions()).name)
                                                 : "own " + roughName(dice)};
        if (avatar.expression(made.name)) continue;
        made.custom = !avatar::standardExpressionNamed(made.name), made.binary = dice.chance(0.3);
        for (int b = dice.between(0, 3); b-- > 0;)
            made.morphs.push_back({key(), dice.of(morphs), dice.between(0.0, 1.0)});
        if (dice.chance(0.3))
            made.colours.push_back({model.materials.empty() ? "none" : dice.of(model.materials).name,
                                    "color",
                                    {1, 0.5, dice.between(0.0, 1.0), 1}});
        avatar.expressions.push_back(std::move(made));
    }
    if (dice.chance(0.6))
        avatar.lookAt =
            LookAt{dice.chance(0.5) ? LookAt::By::Bones : LookAt::By::Expressions, place(), {}, {}, {}, {}};
    for (int c = dice.between(0, 3); c-- > 0;) {
        avatar.colliders.push_back({key(), place(), std::nullopt, dice.between(0.0, 2.0)});
        if (dice.chance(0.5)) avatar.colliders.back().to = place();
    }
    if (!avatar.colliders.empty())
        avatar.groups = {{roughName(dice), {int(dice.below(avatar.colliders.size()))}}};
    for (int s = dice.between(0, 2); s-- > 0;) {
        Spring spring{roughName(dice), {}, {}, key()};
        for (int j = dice.between(1, 4); j-- > 0;) spring.joints.push_back({.node = key()});
        if (!avatar.groups.empty()) spring.groups = {0};
        avatar.springs.push_back(std::move(spring));
    }
    if (dice.chance(0.3)) avatar.constraints = {{key(), key(), "roll", "Z", 0.5}};
    if (dice.chance(0.5)) avatar.licence["name"] = roughName(dice);
    model.avatar = std::make_shared<const Avatar>(std::move(avatar));
}

} // namespace torture
