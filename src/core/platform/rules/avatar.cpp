// Rules about avatars: bones and faces that must be there, how the figure stands, and whose it is.
#include "core/platform/rules/all_rules.h"

#include "core/avatar/keys.h"
#include "core/avatar/licence.h"
#include "core/avatar/roles.h"
#include "core/avatar/t_pose.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/model/avatar.h"
#include "core/motion/attached.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace zl::platform {

namespace {

/// What is said of a model that is no avatar.
Finding noAvatar(const std::string& limit) {
    Finding finding;
    finding.canBeTight = false;
    finding.holds = false;
    finding.measured = "not set up";
    finding.limit = limit;
    finding.note = "The piece is not set up as an avatar";
    return finding;
}

/// So many of all are there.
Finding ofAll(std::size_t all, const std::vector<std::string>& missing, std::string_view fine,
              std::string_view lacks) {
    Finding finding;
    finding.canBeTight = false;
    finding.holds = missing.empty();
    finding.value = double(all - missing.size());
    finding.share = all == 0 ? 0 : finding.value / double(all);
    finding.measured = fmt::format("{} of {}", all - missing.size(), all);
    finding.limit = fmt::format("all {}", all);
    finding.note = missing.empty() ? std::string(fine) : fmt::format("{} {}", lacks, showNames(missing));
    return finding;
}

} // namespace

Finding measureAvatarBones(const Measures& m, const Sheet&, const RuleSpec&) {
    std::size_t all = 0;
    std::vector<std::string> missing;
    for (const avatar::Role& role : avatar::allRoles()) {
        if (!role.required) continue;
        ++all;
        if (avatar::boneOf(m.model(), role.name) < 0) missing.emplace_back(role.name);
    }
    if (!m.model().avatar) return noAvatar(fmt::format("all {}", all));
    return ofAll(all, missing, "Every required bone is there", "There is no bone for");
}

Finding measureTPose(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("degrees", 10);
    const auto off = avatar::offTPose(m.model());
    const std::string limit = fmt::format("within {}°", showNumber(most, 1));
    if (!off) {
        Finding finding = noAvatar(limit);
        if (m.model().avatar)
            finding.measured = "not told", finding.note = "Its arms and legs are not all named";
        return finding;
    }
    const bool arm = off->armDegrees >= off->legDegrees;
    Finding finding;
    finding.value = std::max(off->armDegrees, off->legDegrees);
    finding.holds = finding.value <= most;
    finding.share = most > 0 ? finding.value / most : 0;
    finding.measured = fmt::format("{}°", showNumber(finding.value, 1));
    finding.limit = limit;
    finding.note =
        arm ? fmt::format("The {} arm is {}° off level", off->arm, showNumber(off->armDegrees, 1))
            : fmt::format("The {} leg is {}° off straight down", off->leg, showNumber(off->legDegrees, 1));
    for (const std::string& role : {arm ? off->arm + "UpperArm" : off->leg + "UpperLeg"})
        if (const int bone = avatar::boneOf(m.model(), role); bone >= 0 && !finding.holds)
            finding.nodes.push_back(bone);
    return finding;
}

Finding measureExpressions(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const auto wanted = patternsFrom(rule.texts.at("names"));
    std::vector<std::string> missing;
    for (const std::string& name : wanted) {
        const Expression* e = m.model().avatar ? m.model().avatar->expression(name) : nullptr;
        const bool moves = e && (!e->colours.empty() || !e->placements.empty() ||
                                 std::ranges::any_of(e->morphs, [&](const Expression::Morph& bind) {
                                     return !avatar::targetsOf(m.model(), bind).empty();
                                 }));
        if (!moves) missing.push_back(name);
    }
    if (!m.model().avatar) return noAvatar(fmt::format("all {}", wanted.size()));
    return ofAll(wanted.size(), missing, "Every face that is wanted is there", "There is no face for");
}

Finding measureOneRoot(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    std::set<int> roots;
    for (int node : motion::jointsOf(model)) {
        while (model.nodes[std::size_t(node)].parent >= 0) node = model.nodes[std::size_t(node)].parent;
        roots.insert(node);
    }
    Finding finding = atMost(double(roots.size()), 1, "root of bones", "roots of bones");
    finding.canBeTight = false;
    finding.holds = roots.size() == 1;
    if (roots.size() > 1) finding.nodes.assign(roots.begin(), roots.end());
    if (roots.empty()) finding.note = "There are no bones";
    return finding;
}

Finding measureAvatarLicence(const Measures& m, const Sheet&, const RuleSpec&) {
    if (!m.model().avatar) return noAvatar("filled in");
    const auto missing = avatar::missingOfLicence(m.model().avatar->licence);
    Finding finding;
    finding.canBeTight = false;
    finding.holds = missing.empty();
    finding.measured = finding.holds ? "filled in" : fmt::format("{} missing", missing.size());
    finding.limit = "filled in";
    finding.note = finding.holds ? "It says whose it is and what may be done with it"
                                 : "It does not say its " + showNames(missing);
    return finding;
}

} // namespace zl::platform
