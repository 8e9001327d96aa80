// VRM 0 (the extension VRM) as a set-up of version 1.0. It faces -Z and counts places in a left-handed space,
// and its words for expressions are others; what has no counterpart is left out and said.
#include "core/formats/gltf_json.h"
#include "core/formats/vrm.h"

#include "core/avatar/licence.h"
#include "core/avatar/roles.h"
#include "core/base/letters.h"
#include "core/model/avatar.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <map>
#include <set>

namespace zl::formats {

namespace {

using Json = nlohmann::json;

/// {"x": …, "y": …, "z": …} with its Z the other way.
glm::dvec3 placeOf(const Json& json) {
    return {numberIn(json, "x", 0), numberIn(json, "y", 0), -numberIn(json, "z", 0)};
}

/// Version 0 calls the thumb's bones by one place farther out.
std::string roleOf(const std::string& bone) {
    for (const char* side : {"left", "right"}) {
        if (bone == side + std::string("ThumbProximal")) return side + std::string("ThumbMetacarpal");
        if (bone == side + std::string("ThumbIntermediate")) return side + std::string("ThumbProximal");
    }
    return bone;
}

std::string expressionOf(const std::string& preset) {
    static const std::map<std::string, std::string> known{{"a", "aa"},
                                                          {"i", "ih"},
                                                          {"u", "ou"},
                                                          {"e", "ee"},
                                                          {"o", "oh"},
                                                          {"joy", "happy"},
                                                          {"angry", "angry"},
                                                          {"sorrow", "sad"},
                                                          {"fun", "relaxed"},
                                                          {"blink", "blink"},
                                                          {"blink_l", "blinkLeft"},
                                                          {"blink_r", "blinkRight"},
                                                          {"lookup", "lookUp"},
                                                          {"lookdown", "lookDown"},
                                                          {"lookleft", "lookLeft"},
                                                          {"lookright", "lookRight"},
                                                          {"neutral", "neutral"}};
    const auto found = known.find(lowerCase(preset));
    return found == known.end() ? std::string() : found->second;
}

class Vrm0 {
public:
    Vrm0(const Json& vrm, const GltfPlaces& from, Model& model) : vrm_(vrm), from_(from), model_(model) {
        for (std::size_t n = 0; n < model.nodes.size(); ++n)
            if (model.nodes[n].mesh >= 0) showing_.try_emplace(model.nodes[n].mesh, int(n));
    }

    Avatar read() {
        avatar_.version = "0";
        readLicence();
        for (const Json& bone : listIn(objectIn(vrm_, "humanoid"), "humanBones")) {
            const std::string role = roleOf(textIn(bone, "bone"));
            const int key = keyIn(bone, "node", from_, model_);
            if (!avatar::roleNamed(role) || key == 0)
                drop(fmt::format("bone \"{}\"", role));
            else
                avatar_.bones[role] = key;
        }
        for (const Json& group : listIn(objectIn(vrm_, "blendShapeMaster"), "blendShapeGroups"))
            readExpression(group);
        readLooks();
        readSwinging();
        if (!listIn(vrm_, "materialProperties").empty())
            drop("shaders of materials, which version 0 writes for one engine alone");
        return std::move(avatar_);
    }

private:
    void drop(const std::string& what) {
        const std::string said = "avatar: " + what;
        if (std::ranges::find(model_.dropped, said) == model_.dropped.end()) model_.dropped.push_back(said);
    }

    void readLicence() {
        const Json& meta = objectIn(vrm_, "meta");
        Json& out = avatar_.licence;
        const auto take = [&](const char* from, const char* to) {
            if (const auto text = textIn(meta, from); !text.empty()) out[to] = text;
        };
        take("title", "name"), take("version", "version"), take("contactInformation", "contactInformation");
        take("otherLicenseUrl", "otherLicenseUrl");
        if (const auto author = textIn(meta, "author"); !author.empty()) out["authors"] = {author};
        if (const auto reference = textIn(meta, "reference"); !reference.empty())
            out["references"] = {reference};
        static const std::map<std::string, std::string> who{
            {"OnlyAuthor", "onlyAuthor"},
            {"ExplicitlyLicensedPerson", "onlySeparatelyLicensedPerson"},
            {"Everyone", "everyone"}};
        if (const auto found = who.find(textIn(meta, "allowedUserName")); found != who.end())
            out["avatarPermission"] = found->second;
        // Its words are misspelt in the standard itself.
        out["allowExcessivelyViolentUsage"] = textIn(meta, "violentUssageName") == "Allow";
        out["allowExcessivelySexualUsage"] = textIn(meta, "sexualUssageName") == "Allow";
        out["commercialUsage"] =
            textIn(meta, "commercialUssageName") == "Allow" ? "personalProfit" : "personalNonProfit";
        drop("which licence it has: version 1.0 asks for an address, and version 0 names \"" +
             textIn(meta, "licenseName") + "\"");
        if (const int texture = indexIn(meta, "texture");
            texture >= 0 && texture < int(from_.source.textures.size()))
            avatar_.thumbnail = from_.picture(from_.source.textures[std::size_t(texture)].source);
    }

    int nodeShowing(int mesh) const {
        const auto found = showing_.find(mesh);
        return found == showing_.end() ? -1 : found->second;
    }

    void readExpression(const Json& group) {
        const std::string preset = expressionOf(textIn(group, "presetName"));
        Expression out{.name = preset.empty() ? textIn(group, "name") : preset,
                       .custom = preset.empty(),
                       .binary = flagIn(group, "isBinary")};
        if (out.name.empty() || avatar_.expression(out.name))
            return drop("an expression without a name of its own");
        for (const Json& bind : listIn(group, "binds")) {
            const int node = nodeShowing(indexIn(bind, "mesh")), index = indexIn(bind, "index");
            const Mesh* mesh =
                node < 0 ? nullptr : model_.meshes[std::size_t(model_.nodes[std::size_t(node)].mesh)].get();
            if (!mesh || index < 0 || index >= int(mesh->morphs.size())) {
                drop(fmt::format("a morph target of \"{}\" that is not there", out.name));
                continue;
            }
            out.morphs.push_back({keyGiven(model_, node), mesh->morphs[std::size_t(index)].name,
                                  std::clamp(numberIn(bind, "weight", 100) / 100, 0.0, 1.0)});
        }
        if (!listIn(group, "materialValues").empty())
            drop(fmt::format("what \"{}\" does to materials", out.name));
        avatar_.expressions.push_back(std::move(out));
    }

    void readLooks() {
        const Json& first = objectIn(vrm_, "firstPerson");
        if (first.empty()) return;
        LookAt out;
        out.by =
            textIn(first, "lookAtTypeName") == "BlendShape" ? LookAt::By::Expressions : LookAt::By::Bones;
        out.eyes = placeOf(objectIn(first, "firstPersonBoneOffset"));
        const auto range = [&](const char* key, LookAt::Range& to) {
            const Json& map = objectIn(first, key);
            to.most = std::clamp(numberIn(map, "xRange", to.most), 0.0, 180.0);
            to.gives = std::clamp(numberIn(map, "yRange", to.gives), -1e3, 1e3);
            const Json& curve = listIn(map, "curve");
            if (!curve.empty() && curve != Json::array({0, 0, 0, 1, 1, 1, 1, 0}))
                drop("how the eyes' turn bends between the middle and the side");
        };
        range("lookAtHorizontalInner", out.inward), range("lookAtHorizontalOuter", out.outward);
        range("lookAtVerticalUp", out.up), range("lookAtVerticalDown", out.down);
        avatar_.lookAt = out;
        static const std::map<std::string, std::string> words{{"Auto", "auto"},
                                                              {"Both", "both"},
                                                              {"ThirdPersonOnly", "thirdPersonOnly"},
                                                              {"FirstPersonOnly", "firstPersonOnly"}};
        for (const Json& seen : listIn(first, "meshAnnotations")) {
            const auto word = words.find(textIn(seen, "firstPersonFlag"));
            const int node = nodeShowing(indexIn(seen, "mesh"));
            if (node >= 0 && word != words.end())
                avatar_.seen.push_back({keyGiven(model_, node), word->second});
        }
    }

    void readSwinging() {
        const Json& all = objectIn(vrm_, "secondaryAnimation");
        for (const Json& group : listIn(all, "colliderGroups")) {
            ColliderGroup out;
            for (const Json& ball : listIn(group, "colliders")) {
                out.colliders.push_back(int(avatar_.colliders.size()));
                avatar_.colliders.push_back({keyIn(group, "node", from_, model_),
                                             placeOf(objectIn(ball, "offset")), std::nullopt,
                                             std::clamp(numberIn(ball, "radius", 0), 0.0, 1e6)});
            }
            avatar_.groups.push_back(std::move(out));
        }
        std::vector<int> firstBelow(model_.nodes.size(), -1);
        for (std::size_t n = model_.nodes.size(); n-- > 0;)
            if (const int parent = model_.nodes[n].parent; parent >= 0)
                firstBelow[std::size_t(parent)] = int(n);
        std::set<int> swings; // a bone of two chains would swing twice
        for (const Json& group : listIn(all, "boneGroups")) {
            Spring made{textIn(group, "comment"), {}, {}, keyIn(group, "center", from_, model_)};
            made.groups = indicesIn(group, "colliderGroups", avatar_.groups.size());
            // A group names the first bones of chains that swing alike; 1.0 wants each chain by itself.
            for (const Json& root : listIn(group, "bones")) {
                Spring spring = made;
                const Json own{{"node", root}};
                for (int node = keyIn(own, "node", from_, model_) - 1;
                     node >= 0 && swings.insert(node).second; node = firstBelow[std::size_t(node)])
                    spring.joints.push_back({keyGiven(model_, node),
                                             std::clamp(numberIn(group, "hitRadius", 0), 0.0, 1e6),
                                             // Its own word is misspelt in the standard.
                                             std::clamp(numberIn(group, "stiffiness", 1), 0.0, 1e6),
                                             std::clamp(numberIn(group, "gravityPower", 0), 0.0, 1e6),
                                             std::clamp(numberIn(group, "dragForce", 0.5), 0.0, 1.0),
                                             placeOf(objectIn(group, "gravityDir"))});
                if (!spring.joints.empty()) avatar_.springs.push_back(std::move(spring));
            }
        }
    }

    const Json& vrm_;
    const GltfPlaces& from_;
    Model& model_;
    std::map<int, int> showing_; ///< by mesh: the first node that shows it
    Avatar avatar_;
};

} // namespace

void readVrm0(const Json& vrm, const GltfPlaces& from, Model& model) {
    model.avatar = std::make_shared<const Avatar>(Vrm0(vrm, from, model).read());
    const glm::dmat4 round = glm::rotate(glm::dmat4(1), glm::radians(180.0), glm::dvec3(0, 1, 0));
    for (Node& node : model.nodes)
        if (node.parent < 0) node.local = round * node.local;
    model.warnings.emplace_back("this is an avatar of version 0 of its standard; it is turned to face +Z, "
                                "and is written as version 1.0");
}

} // namespace zl::formats
