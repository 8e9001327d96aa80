#include "core/avatar/proposed.h"

#include "core/avatar/roles.h"
#include "core/geometry/world.h"
#include "core/motion/bone_map.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace zl::avatar {

namespace {

using Roles = std::map<std::string, int, std::less<>>;

/// Bones with where they stand.
class Skeleton {
public:
    explicit Skeleton(const Model& model) : model_(model), bones_(motion::bonesOf(model)) {
        const auto world = worldMatrices(model);
        for (const int bone : bones_) {
            places_[bone] = glm::dvec3(world[std::size_t(bone)][3]);
            low_ = std::min(low_, places_[bone].y), high_ = std::max(high_, places_[bone].y);
        }
    }

    const std::vector<int>& bones() const { return bones_; }
    const glm::dvec3& place(int bone) const { return places_.at(bone); }
    double height() const { return high_ - low_; }

    /// The bone on one side for which `much` is most; -1 where none is on that side.
    int most(int side, const auto& much) const {
        int best = -1;
        for (const int bone : bones_)
            if (side * place(bone).x > 0.01 * height() && (best < 0 || much(bone) > much(best))) best = bone;
        return best;
    }
    /// From a bone upward, itself first.
    std::vector<int> upward(int bone) const {
        std::vector<int> out;
        for (; bone >= 0; bone = model_.nodes[std::size_t(bone)].parent) out.push_back(bone);
        return out;
    }
    /// The lowest bone above both; -1 where they hang on different roots.
    int meeting(int a, int b) const {
        const auto up = upward(a);
        for (const int bone : upward(b))
            if (std::ranges::find(up, bone) != up.end()) return bone;
        return -1;
    }
    /// From below `top` down to `end`.
    std::vector<int> chain(int top, int end) const {
        std::vector<int> out;
        for (const int bone : upward(end)) {
            if (bone == top) break;
            out.insert(out.begin(), bone);
        }
        return out;
    }

    /// Where in a chain the two bones begin that together are longest, as upper arm and forearm are; -1 for a
    /// chain of fewer than three.
    int longestPair(const std::vector<int>& chain) const {
        int best = -1;
        double most = -1;
        for (std::size_t k = 0; k + 2 < chain.size(); ++k) {
            const double length = glm::distance(place(chain[k]), place(chain[k + 1])) +
                                  glm::distance(place(chain[k + 1]), place(chain[k + 2]));
            if (length > most) most = length, best = int(k);
        }
        return best;
    }

private:
    const Model& model_;
    std::vector<int> bones_;
    std::map<int, glm::dvec3> places_;
    double low_ = 1e300, high_ = -1e300;
};

Roles byShape(const Skeleton& bones) {
    Roles out;
    if (bones.bones().size() < 10 || !(bones.height() > 0)) return out;
    const auto low = [&](int bone) { return -bones.place(bone).y; };
    const auto aside = [&](int bone) { return std::abs(bones.place(bone).x); };
    const int feet[] = {bones.most(1, low), bones.most(-1, low)},
              hands[] = {bones.most(1, aside), bones.most(-1, aside)};
    if (std::min({feet[0], feet[1], hands[0], hands[1]}) < 0) return out;
    const int hips = bones.meeting(feet[0], feet[1]), chest = bones.meeting(hands[0], hands[1]);
    if (hips < 0 || chest < 0 || hips == chest) return out;
    const auto trunk = bones.chain(hips, chest);
    if (trunk.empty() || bones.upward(chest).size() <= bones.upward(hips).size()) return out;
    out["hips"] = hips, out["spine"] = trunk.front();
    if (trunk.size() > 1) out["chest"] = trunk[1];
    if (trunk.size() > 2) out["upperChest"] = trunk.back();
    for (const int side : {0, 1}) {
        const std::string prefix = side == 0 ? "left" : "right";
        const auto put = [&](const char* role, int bone) { out[prefix + role] = bone; };
        const auto leg = bones.chain(hips, feet[side]), arm = bones.chain(chest, hands[side]);
        if (const int at = bones.longestPair(leg); at >= 0) {
            const auto first = std::size_t(at);
            put("UpperLeg", leg[first]), put("LowerLeg", leg[first + 1]), put("Foot", leg[first + 2]);
            if (first + 3 < leg.size()) put("Toes", leg[first + 3]);
        }
        if (const int at = bones.longestPair(arm); at >= 0) {
            const auto first = std::size_t(at);
            put("UpperArm", arm[first]), put("LowerArm", arm[first + 1]), put("Hand", arm[first + 2]);
            if (first > 0) put("Shoulder", arm[first - 1]);
        }
    }
    // What goes up from the chest in the middle.
    int top = -1;
    for (const int bone : bones.bones())
        if (std::abs(bones.place(bone).x) < 0.02 * bones.height() &&
            bones.place(bone).y > bones.place(chest).y &&
            (top < 0 || bones.place(bone).y > bones.place(top).y)) {
            const auto up = bones.upward(bone);
            if (std::ranges::find(up, chest) != up.end()) top = bone;
        }
    if (top >= 0) {
        const auto neck = bones.chain(chest, top);
        if (neck.size() > 1) out["neck"] = neck[0];
        if (!neck.empty()) out["head"] = neck[std::min<std::size_t>(1, neck.size() - 1)];
    }
    return out;
}

/// Whether a bone stands where its role may: below the bones of the roles above it.
bool fits(const Model& model, const Roles& roles, const Role& role, int bone) {
    for (std::string_view above = role.above; !above.empty(); above = roleNamed(above)->above) {
        const auto found = roles.find(above);
        if (found == roles.end()) continue;
        int node = model.nodes[std::size_t(bone)].parent;
        while (node >= 0 && node != found->second) node = model.nodes[std::size_t(node)].parent;
        if (node < 0) return false;
    }
    return true;
}

} // namespace

ProposedRoles proposedRoles(const Model& model) {
    ProposedRoles out;
    const Skeleton bones(model);
    std::map<std::string, int> byName;
    for (const int bone : bones.bones()) // the one nearest the root, where several are called alike
        if (const auto name = motion::plainBoneName(model.nodes[std::size_t(bone)].name); !name.empty())
            byName.try_emplace(name, bone);
    std::set<int> used;
    for (const Role& role : allRoles()) {
        const auto found = byName.find(motion::plainBoneName(role.name));
        if (found == byName.end() || used.contains(found->second) ||
            !fits(model, out.named, role, found->second))
            continue;
        out.named.emplace(role.name, found->second), used.insert(found->second);
    }
    bool whole = true;
    for (const Role& role : allRoles()) whole &= !role.required || out.named.contains(role.name);
    if (whole) return out;
    const Roles shape = byShape(bones);
    Roles all = out.named;
    for (const Role& role : allRoles()) {
        const auto found = shape.find(role.name);
        if (found == shape.end() || all.contains(role.name) || used.contains(found->second) ||
            !fits(model, all, role, found->second))
            continue;
        out.guessed.insert(*found), all.insert(*found), used.insert(found->second);
    }
    return out;
}

std::vector<Expression> proposedExpressions(const Model& model) {
    std::vector<Expression> out;
    for (const StandardExpression& standard : standardExpressions()) {
        Expression made{.name = std::string(standard.name)};
        std::set<std::string> names;
        for (const int n : shownNodes(model))
            for (const MorphTarget& morph :
                 model.meshes[std::size_t(model.nodes[std::size_t(n)].mesh)]->morphs)
                if (expressionMeantBy(morph.name) == standard.name && names.insert(morph.name).second)
                    made.morphs.push_back({0, morph.name, 1});
        if (!made.morphs.empty()) out.push_back(std::move(made));
    }
    return out;
}

LookAt proposedLookAt(const Model& model, int head, int leftEye, int rightEye) {
    LookAt out;
    const auto world = worldMatrices(model);
    if (leftEye >= 0 && rightEye >= 0) {
        const glm::dvec3 between =
            0.5 * (glm::dvec3(world[std::size_t(leftEye)][3]) + glm::dvec3(world[std::size_t(rightEye)][3]));
        if (head >= 0) out.eyes = glm::dvec3(glm::inverse(world[std::size_t(head)]) * glm::dvec4(between, 1));
        return out;
    }
    out.by = LookAt::By::Expressions;
    for (LookAt::Range* range : {&out.inward, &out.outward, &out.up, &out.down}) range->gives = 1;
    if (head >= 0) {
        const auto bounds = geometry::worldBounds(model);
        const double height = bounds.empty() ? 1.0 : bounds.size().y;
        out.eyes =
            glm::inverse(glm::dmat3(world[std::size_t(head)])) * glm::dvec3(0, height / 12, height / 24);
    }
    return out;
}

} // namespace zl::avatar
