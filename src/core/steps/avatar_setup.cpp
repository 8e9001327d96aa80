#include "core/steps/avatar_setup.h"

#include "core/avatar/keys.h"
#include "core/avatar/proposed.h"
#include "core/avatar/roles.h"
#include "core/avatar/t_pose.h"
#include "core/base/words.h"
#include "core/steps/bone_pairs.h"

#include <algorithm>
#include <set>

namespace zl::steps {

std::vector<std::string> AvatarSetup::RoleRow::roles(const platform::Sheet&) {
    std::vector<std::string> out;
    for (const avatar::Role& role : avatar::allRoles()) out.emplace_back(role.name);
    return out;
}

std::vector<std::string> AvatarSetup::FaceRow::expressions(const platform::Sheet&) {
    std::vector<std::string> out;
    for (const auto& expression : avatar::standardExpressions()) out.emplace_back(expression.name);
    return out;
}

namespace {

class SettingUp {
public:
    SettingUp(const AvatarSetup& step, const Model& in, StepContext& context)
        : step_(step), context_(context), out_(in), own_(in.avatar ? *in.avatar : Avatar{}) {
        own_.version = "1.0";
    }

    Model run() {
        giveRoles();
        giveFaces();
        giveLook();
        out_.avatar = std::make_shared<const Avatar>(own_);
        say();
        return std::move(out_);
    }

private:
    int bone(std::string_view role) const { return avatar::boneOf(out_, own_, role); }

    void giveRoles() {
        for (auto entry = own_.bones.begin(); entry != own_.bones.end();)
            entry = avatar::nodeOf(out_, entry->second) < 0 ? own_.bones.erase(entry) : std::next(entry);
        const auto proposed = avatar::proposedRoles(out_);
        const auto put = [&](const auto& roles, std::vector<std::string>* told) {
            for (const auto& [role, node] : roles) {
                if (own_.bones.contains(role)) continue;
                own_.bones[role] = avatar::keyOf(out_, node);
                if (told) told->push_back(role + ": " + out_.nodes[std::size_t(node)].name);
            }
        };
        put(proposed.named, nullptr);
        if (step_.guess) put(proposed.guessed, &guessed_);
        for (const auto& row : step_.bones) {
            if (row.role.empty()) continue;
            if (!avatar::roleNamed(row.role))
                throw Error(fmt::format("no bone of an avatar is called \"{}\"", row.role), {},
                            "Choose among the roles that the list offers.");
            own_.bones.erase(row.role);
            std::erase_if(guessed_,
                          [&](const std::string& said) { return said.starts_with(row.role + ":"); });
            if (row.bone.name.empty()) continue;
            const int node = boneNamed(out_, row.bone.name, "the piece");
            std::erase_if(own_.bones,
                          [&](const auto& one) { return avatar::nodeOf(out_, one.second) == node; });
            own_.bones[row.role] = avatar::keyOf(out_, node);
        }
    }

    Expression& expression(const std::string& name) {
        for (Expression& e : own_.expressions)
            if (e.name == name) return e;
        return own_.expressions.emplace_back(
            Expression{.name = name, .custom = avatar::standardExpressionNamed(name) == nullptr});
    }

    void giveFaces() {
        for (Expression& e : avatar::proposedExpressions(out_))
            if (!own_.expression(e.name)) own_.expressions.push_back(std::move(e));
        std::set<std::string> named;
        for (const auto& row : step_.faces) {
            if (row.expression.empty()) continue;
            Expression& e = expression(row.expression);
            if (named.insert(row.expression).second)
                e.morphs.clear(); // rows take the place of what was found
            if (row.morph.empty()) continue;
            const Expression::Morph bind{0, row.morph, row.weight};
            if (avatar::targetsOf(out_, bind).empty())
                throw Error(fmt::format("the piece has no morph target \"{}\"", row.morph), {},
                            "Choose among its morph targets.");
            e.morphs.push_back(bind);
        }
    }

    void giveLook() {
        const int head = bone("head");
        const LookAt proposed = avatar::proposedLookAt(out_, head, bone("leftEye"), bone("rightEye"));
        if (!own_.lookAt) own_.lookAt = proposed;
        if (step_.look == AvatarSetup::Look::Bones && own_.lookAt->by != LookAt::By::Bones)
            own_.lookAt = LookAt{LookAt::By::Bones, own_.lookAt->eyes, {}, {}, {}, {}};
        if (step_.look == AvatarSetup::Look::Expressions && own_.lookAt->by != LookAt::By::Expressions) {
            const LookAt::Range wholly{90, 1};
            own_.lookAt = {LookAt::By::Expressions, own_.lookAt->eyes, wholly, wholly, wholly, wholly};
        }
        if (step_.eyes == AvatarSetup::Eyes::Place && head >= 0) {
            // The field is told in the world's directions, and the standard in the bone's.
            const auto world = worldMatrices(out_);
            own_.lookAt->eyes = glm::inverse(glm::dmat3(world[std::size_t(head)])) * step_.place;
        }
    }

    void say() {
        std::vector<std::string> missing;
        const auto unused = avatar::unusedMorphs(out_, own_);
        for (const avatar::Role& role : avatar::allRoles())
            if (role.required && bone(role.name) < 0) missing.emplace_back(role.name);
        context_.note(fmt::format("{} and {}", showCount(long(own_.bones.size()), "bone", "bones"),
                                  showCount(long(own_.expressions.size()), "expression", "expressions")));
        if (const auto off = avatar::offTPose(out_)) {
            context_.facts["armDegrees"] = off->armDegrees, context_.facts["legDegrees"] = off->legDegrees;
            context_.note(fmt::format("the {} arm is {}° off level, the {} leg {}° off straight down",
                                      off->arm, showNumber(off->armDegrees, 1), off->leg,
                                      showNumber(off->legDegrees, 1)));
        }
        if (!guessed_.empty()) context_.note("by shape, look at these first: " + showNames(guessed_));
        if (!unused.empty()) context_.note("used by no expression: " + showNames(unused));
        if (!missing.empty()) context_.fellShort("has no bone for " + showNames(missing));
        context_.facts["bones"] = own_.bones.size();
        context_.facts["expressions"] = own_.expressions.size();
        context_.facts["guessed"] = guessed_, context_.facts["missing"] = missing;
        context_.facts["unused"] = unused;
    }

    const AvatarSetup& step_;
    StepContext& context_;
    Model out_;
    Avatar own_;
    std::vector<std::string> guessed_;
};

} // namespace

Model AvatarSetup::apply(const Model& in, StepContext& context) const {
    if (motion::bonesOf(in).empty()) {
        context.note("there are no bones");
        return in;
    }
    return SettingUp(*this, in, context).run();
}

} // namespace zl::steps
