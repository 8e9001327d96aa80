#include "core/avatar/taken_setup.h"

#include "core/avatar/keys.h"
#include "core/avatar/morph_matches.h"
#include "core/avatar/roles.h"
#include "core/base/letters.h"
#include "core/motion/taken_clip.h"

#include <algorithm>
#include <set>

namespace zl::avatar {

namespace {

class Carrying {
public:
    Carrying(const Model& from, const Model& to, const motion::BoneMap& bones)
        : from_(from), worldFrom_(worldMatrices(from)), worldTo_(worldMatrices(to)),
          ratio_(motion::heightRatio(from, to, bones)) {
        out_.model = to;
        for (Node& node : out_.model.nodes) node.key = 0; // an older set-up of its own goes
        for (const auto& match : bones.matches) {
            nodes_[match.from] = match.to;
            if (match.by != motion::BoneMatch::By::Name) unsure_.insert(match.from);
        }
        std::map<std::string, int> byName;
        for (std::size_t n = 0; n < to.nodes.size(); ++n) byName.try_emplace(to.nodes[n].name, int(n));
        for (std::size_t n = 0; n < from.nodes.size(); ++n)
            if (const auto found = byName.find(from.nodes[n].name); found != byName.end())
                nodes_.try_emplace(int(n), found->second);
        for (std::size_t n = from.nodes.size(); n-- > 0;)
            if (from.nodes[n].key != 0) keys_[from.nodes[n].key] = int(n);
    }

    TakenSetup take() {
        const Avatar& theirs = *from_.avatar;
        own_.licence = theirs.licence, own_.thumbnail = theirs.thumbnail;
        for (const auto& [role, key] : theirs.bones)
            if (const NodeKey to = keyFor(key); to != 0)
                own_.bones[role] = to, ++out_.bones;
            else
                miss("bone " + role);
        takeExpressions();
        if (theirs.lookAt) takeLookAt();
        for (const SeenByWearer& seen : theirs.seen)
            if (const NodeKey to = keyFor(seen.node); to != 0) own_.seen.push_back({to, seen.whom});
        takeSprings();
        for (const TurnConstraint& c : theirs.constraints) {
            TurnConstraint made = c;
            made.node = keyFor(c.node), made.source = keyFor(c.source);
            if (made.node != 0 && made.source != 0)
                own_.constraints.push_back(std::move(made));
            else
                miss("a constraint of " + nameOf(c.node));
        }
        takeMaterials();
        out_.expressions = own_.expressions.size(), out_.springs = own_.springs.size();
        out_.model.avatar = std::make_shared<const Avatar>(std::move(own_));
        return std::move(out_);
    }

private:
    void miss(const std::string& what) {
        if (std::ranges::find(out_.missing, what) == out_.missing.end()) out_.missing.push_back(what);
    }
    int theirs(NodeKey key) const {
        const auto found = keys_.find(key);
        return found == keys_.end() ? -1 : found->second;
    }
    std::string nameOf(NodeKey key) const {
        const int node = theirs(key);
        return node < 0 ? "a part that is gone" : from_.nodes[std::size_t(node)].name;
    }
    NodeKey keyFor(NodeKey key) {
        const int node = theirs(key);
        const auto found = nodes_.find(node);
        if (node < 0 || found == nodes_.end()) return 0;
        if (unsure_.contains(node)) {
            const std::string said = from_.nodes[std::size_t(node)].name + " → " +
                                     out_.model.nodes[std::size_t(found->second)].name;
            if (std::ranges::find(out_.guessed, said) == out_.guessed.end()) out_.guessed.push_back(said);
        }
        return keyOf(out_.model, found->second);
    }
    /// What takes a place in their bone's space to one in ours: nothing where both stand alike.
    glm::dmat3 between(NodeKey key) const {
        const int node = theirs(key), own = nodes_.at(node);
        const glm::dmat3 by = glm::inverse(glm::dmat3(worldTo_[std::size_t(own)])) * ratio_ *
                              glm::dmat3(worldFrom_[std::size_t(node)]);
        bool same = true;
        for (int c = 0; c < 3; ++c)
            for (int r = 0; r < 3; ++r) {
                if (!std::isfinite(by[c][r])) return glm::dmat3(1); // a bone pressed flat tells no directions
                same &= std::abs(by[c][r] - (c == r ? 1 : 0)) < 1e-6;
            }
        return same ? glm::dmat3(1) : by;
    }
    static double scaleOf(const glm::dmat3& by) { return std::cbrt(std::abs(glm::determinant(by))); }

    void takeExpressions() {
        const auto morphs = matchedMorphs(from_, out_.model, ratio_);
        for (const Expression& e : from_.avatar->expressions) {
            Expression made = e;
            made.morphs.clear();
            for (const Expression::Morph& bind : e.morphs) {
                const auto found = morphs.of.find(bind.morph);
                if (found == morphs.of.end()) {
                    miss(e.name + ": morph target " + bind.morph);
                    continue;
                }
                if (found->second.guessed) {
                    const std::string said = bind.morph + " → " + found->second.name;
                    if (std::ranges::find(out_.guessed, said) == out_.guessed.end())
                        out_.guessed.push_back(said);
                }
                // Where the same part has it, that one; else whatever parts have it.
                const int node = theirs(bind.node);
                const auto part = nodes_.find(node);
                Expression::Morph own{0, found->second.name, bind.weight};
                if (node >= 0 && part != nodes_.end() && hasMorph(part->second, own.morph))
                    own.node = keyOf(out_.model, part->second);
                made.morphs.push_back(std::move(own));
            }
            own_.expressions.push_back(std::move(made));
        }
        out_.leftOver = unusedMorphs(out_.model, own_);
    }
    bool hasMorph(int node, const std::string& name) const {
        const int mesh = out_.model.nodes[std::size_t(node)].mesh;
        if (mesh < 0) return false;
        const auto& morphs = out_.model.meshes[std::size_t(mesh)]->morphs;
        return std::ranges::find(morphs, name, &MorphTarget::name) != morphs.end();
    }

    void takeLookAt() {
        own_.lookAt = from_.avatar->lookAt;
        const auto head = from_.avatar->bones.find("head");
        if (head == from_.avatar->bones.end() || keyFor(head->second) == 0) return;
        own_.lookAt->eyes = between(head->second) * own_.lookAt->eyes;
    }

    void takeSprings() {
        for (const SpringCollider& c : from_.avatar->colliders) { // each keeps its number
            SpringCollider made = c;
            made.node = keyFor(c.node);
            if (made.node == 0) {
                miss("a collider on " + nameOf(c.node));
            } else {
                const glm::dmat3 by = between(c.node);
                made.from = by * c.from, made.radius *= scaleOf(by);
                if (c.to) made.to = by * *c.to;
            }
            own_.colliders.push_back(made);
        }
        own_.groups = from_.avatar->groups;
        for (const Spring& spring : from_.avatar->springs) {
            Spring made = spring;
            made.joints.clear(), made.centre = keyFor(spring.centre);
            for (const SpringJoint& joint : spring.joints) {
                SpringJoint own = joint;
                own.node = keyFor(joint.node);
                if (own.node == 0) {
                    miss("swinging bone " + nameOf(joint.node));
                    continue;
                }
                own.radius *= scaleOf(between(joint.node));
                made.joints.push_back(own);
            }
            if (!made.joints.empty()) own_.springs.push_back(std::move(made));
        }
    }

    void takeMaterials() {
        std::map<std::string, const Material*> byName;
        for (const Material& m : from_.materials) byName.try_emplace(lowerCase(m.name), &m);
        std::set<std::string> own;
        std::map<std::string, std::string> named; // theirs by ours
        for (Material& m : out_.model.materials) {
            own.insert(lowerCase(m.name));
            const auto found = byName.find(lowerCase(m.name));
            if (found == byName.end()) continue;
            named.try_emplace(found->second->name, m.name);
            if (!found->second->kept) continue;
            m.kept = found->second->kept, ++out_.materials;
        }
        for (const Material& m : from_.materials)
            if (m.kept && !own.contains(lowerCase(m.name))) miss("material " + m.name);
        const auto keeps = [&](std::string& material, const std::string& expression) {
            const auto found = named.find(material);
            if (found == named.end()) {
                miss(expression + ": material " + material);
                return false;
            }
            material = found->second;
            return true;
        };
        for (Expression& e : own_.expressions) {
            std::erase_if(e.colours, [&](auto& bind) { return !keeps(bind.material, e.name); });
            std::erase_if(e.placements, [&](auto& bind) { return !keeps(bind.material, e.name); });
        }
    }

    const Model& from_;
    std::vector<glm::dmat4> worldFrom_, worldTo_;
    double ratio_;
    std::map<int, int> nodes_;    ///< theirs to ours
    std::map<NodeKey, int> keys_; ///< of theirs
    std::set<int> unsure_;
    Avatar own_;
    TakenSetup out_;
};

} // namespace

TakenSetup takenSetup(const Model& from, const Model& to, const motion::BoneMap& bones) {
    return Carrying(from, to, bones).take();
}

} // namespace zl::avatar
