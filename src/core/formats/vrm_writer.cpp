// A set-up as VRM 1.0 (VRMC_vrm-1.0, VRMC_springBone-1.0, VRMC_node_constraint-1.0).
#include "core/formats/gltf_json.h"
#include "core/formats/vrm.h"

#include "core/avatar/keys.h"
#include "core/avatar/licence.h"
#include "core/model/avatar.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::formats {

namespace {

using Json = nlohmann::json;

Json listOf(const glm::dvec3& v) {
    return {v.x, v.y, v.z};
}

const char* wordOf(Expression::Override how) {
    return how == Expression::Override::Block   ? "block"
           : how == Expression::Override::Blend ? "blend"
                                                : "none";
}

class Vrm1Writer {
public:
    Vrm1Writer(const Model& model, tinygltf::Model& to, std::vector<std::string>* dropped)
        : model_(model), avatar_(*model.avatar), to_(to), dropped_(dropped) {
        for (std::size_t n = 0; n < model.nodes.size(); ++n)
            if (model.nodes[n].key != 0) nodes_.try_emplace(model.nodes[n].key, int(n));
    }

    void write(const std::function<int(const std::shared_ptr<const Image>&)>& image) {
        Json vrm{{"specVersion", "1.0"}, {"meta", avatar_.licence}};
        // Both are demanded, and what is not known is said as such.
        Json& meta = vrm["meta"];
        if (!meta.contains("name") || meta["name"] == "") meta["name"] = model_.name;
        if (!meta.contains("authors")) meta["authors"] = Json::array({""});
        if (!meta.contains("licenseUrl")) meta["licenseUrl"] = avatar::standardLicence;
        if (avatar_.thumbnail) meta["thumbnailImage"] = image(avatar_.thumbnail);
        Json bones = Json::object();
        for (const auto& [role, key] : avatar_.bones)
            if (const int node = find(key); node >= 0)
                bones[role] = {{"node", node}};
            else
                drop(fmt::format("bone \"{}\"", role));
        vrm["humanoid"] = {{"humanBones", std::move(bones)}};
        writeExpressions(vrm);
        if (avatar_.lookAt) writeLookAt(vrm);
        Json seen = Json::array();
        for (const SeenByWearer& one : avatar_.seen)
            if (const int node = find(one.node); node >= 0 && to_.nodes[std::size_t(node)].mesh >= 0)
                seen.push_back({{"node", node}, {"type", one.whom}});
        if (!seen.empty()) vrm["firstPerson"] = {{"meshAnnotations", std::move(seen)}};
        put("VRMC_vrm", to_.extensions, vrm);
        if (!avatar_.springs.empty() || !avatar_.colliders.empty()) writeSprings();
        writeConstraints();
    }

private:
    int find(NodeKey key) const {
        const auto found = nodes_.find(key);
        return found == nodes_.end() ? -1 : found->second;
    }
    void drop(const std::string& what) {
        if (dropped_) dropped_->push_back("avatar: " + what + ", whose part is gone");
    }
    void put(const char* name, tinygltf::ExtensionMap& to, const Json& json) {
        to[name] = valueOf(json);
        if (std::ranges::find(to_.extensionsUsed, name) == to_.extensionsUsed.end())
            to_.extensionsUsed.emplace_back(name);
    }
    int material(const std::string& name) const {
        const auto found = std::ranges::find(model_.materials, name, &Material::name);
        return found == model_.materials.end() ? -1 : int(found - model_.materials.begin());
    }

    void writeExpressions(Json& vrm) {
        Json preset = Json::object(), custom = Json::object();
        for (const Expression& e : avatar_.expressions) {
            Json out{{"isBinary", e.binary},
                     {"overrideBlink", wordOf(e.blink)},
                     {"overrideLookAt", wordOf(e.lookAt)},
                     {"overrideMouth", wordOf(e.mouth)}};
            Json morphs = Json::array(), colours = Json::array(), places = Json::array();
            for (const Expression::Morph& bind : e.morphs) {
                const auto targets = avatar::targetsOf(model_, bind);
                if (targets.empty())
                    drop(fmt::format("the morph target \"{}\" of \"{}\"", bind.morph, e.name));
                for (const auto& [node, index] : targets)
                    if (to_.nodes[std::size_t(node)].mesh >= 0)
                        morphs.push_back({{"node", node}, {"index", index}, {"weight", bind.weight}});
            }
            for (const Expression::Colour& bind : e.colours)
                if (const int m = material(bind.material); m >= 0)
                    colours.push_back({{"material", m},
                                       {"type", bind.kind},
                                       {"targetValue", {bind.to.x, bind.to.y, bind.to.z, bind.to.w}}});
                else
                    drop(fmt::format("a colour of \"{}\"", e.name));
            for (const Expression::Placement& bind : e.placements)
                if (const int m = material(bind.material); m >= 0)
                    places.push_back({{"material", m},
                                      {"scale", {bind.scale.x, bind.scale.y}},
                                      {"offset", {bind.offset.x, bind.offset.y}}});
                else
                    drop(fmt::format("where pictures lie in \"{}\"", e.name));
            if (!morphs.empty()) out["morphTargetBinds"] = std::move(morphs);
            if (!colours.empty()) out["materialColorBinds"] = std::move(colours);
            if (!places.empty()) out["textureTransformBinds"] = std::move(places);
            (e.custom ? custom : preset)[e.name] = std::move(out);
        }
        if (!preset.empty()) vrm["expressions"]["preset"] = std::move(preset);
        if (!custom.empty()) vrm["expressions"]["custom"] = std::move(custom);
    }

    void writeLookAt(Json& vrm) const {
        const LookAt& look = *avatar_.lookAt;
        const auto range = [](const LookAt::Range& r) {
            return Json{{"inputMaxValue", r.most}, {"outputScale", r.gives}};
        };
        vrm["lookAt"] = {{"type", look.by == LookAt::By::Bones ? "bone" : "expression"},
                         {"offsetFromHeadBone", listOf(look.eyes)},
                         {"rangeMapHorizontalInner", range(look.inward)},
                         {"rangeMapHorizontalOuter", range(look.outward)},
                         {"rangeMapVerticalUp", range(look.up)},
                         {"rangeMapVerticalDown", range(look.down)}};
    }

    void writeSprings() {
        // What hangs on nodes that are gone goes, and numbers behind it move up.
        std::vector<int> number;
        Json colliders = Json::array(), groups = Json::array(), springs = Json::array();
        for (const SpringCollider& c : avatar_.colliders) {
            const int node = find(c.node);
            number.push_back(node < 0 ? -1 : int(colliders.size()));
            if (node < 0) {
                drop("a collider of springs");
                continue;
            }
            Json shape{{"offset", listOf(c.from)}, {"radius", c.radius}};
            if (c.to) shape["tail"] = listOf(*c.to);
            colliders.push_back(
                {{"node", node}, {"shape", {{c.to ? "capsule" : "sphere", std::move(shape)}}}});
        }
        for (const ColliderGroup& group : avatar_.groups) {
            Json own = Json::array();
            for (const int c : group.colliders)
                if (number[std::size_t(c)] >= 0) own.push_back(number[std::size_t(c)]);
            groups.push_back({{"colliders", std::move(own)}});
            if (!group.name.empty()) groups.back()["name"] = group.name;
        }
        // A group must hold something, and springs name groups by number.
        std::vector<int> groupNumber;
        Json held = Json::array();
        for (Json& group : groups) {
            groupNumber.push_back(group["colliders"].empty() ? -1 : int(held.size()));
            if (!group["colliders"].empty()) held.push_back(std::move(group));
        }
        for (const Spring& spring : avatar_.springs) {
            Json joints = Json::array(), own = Json::array();
            for (const SpringJoint& j : spring.joints)
                if (const int node = find(j.node); node >= 0)
                    joints.push_back({{"node", node},
                                      {"hitRadius", j.radius},
                                      {"stiffness", j.stiffness},
                                      {"gravityPower", j.gravity},
                                      {"gravityDir", listOf(j.gravityTo)},
                                      {"dragForce", j.drag}});
                else
                    drop(fmt::format("a bone of the spring \"{}\"", spring.name));
            if (joints.empty()) continue;
            for (const int g : spring.groups)
                if (groupNumber[std::size_t(g)] >= 0) own.push_back(groupNumber[std::size_t(g)]);
            Json out{{"joints", std::move(joints)}};
            if (!spring.name.empty()) out["name"] = spring.name;
            if (!own.empty()) out["colliderGroups"] = std::move(own);
            if (const int centre = find(spring.centre); centre >= 0) out["center"] = centre;
            springs.push_back(std::move(out));
        }
        Json all{{"specVersion", "1.0"}};
        if (!colliders.empty()) all["colliders"] = std::move(colliders);
        if (!held.empty()) all["colliderGroups"] = std::move(held);
        if (!springs.empty()) all["springs"] = std::move(springs);
        put("VRMC_springBone", to_.extensions, all);
    }

    void writeConstraints() {
        for (const TurnConstraint& c : avatar_.constraints) {
            const int node = find(c.node), source = find(c.source);
            if (node < 0 || source < 0) {
                drop("a constraint");
                continue;
            }
            Json own{{"source", source}, {"weight", c.weight}};
            if (!c.axis.empty()) own[c.kind == "aim" ? "aimAxis" : "rollAxis"] = c.axis;
            put("VRMC_node_constraint", to_.nodes[std::size_t(node)].extensions,
                {{"specVersion", "1.0"}, {"constraint", {{c.kind, std::move(own)}}}});
        }
    }

    const Model& model_;
    const Avatar& avatar_;
    tinygltf::Model& to_;
    std::vector<std::string>* dropped_;
    std::map<int, int> nodes_; ///< by key
};

} // namespace

void writeAvatar(const Model& model, tinygltf::Model& to,
                 const std::function<int(const std::shared_ptr<const Image>&)>& image,
                 std::vector<std::string>* dropped) {
    Vrm1Writer(model, to, dropped).write(image);
}

} // namespace zl::formats
