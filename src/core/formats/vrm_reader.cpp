// VRM 1.0 as a set-up (VRMC_vrm-1.0).
#include "core/formats/gltf_json.h"
#include "core/formats/vrm.h"

#include "core/avatar/licence.h"
#include "core/avatar/roles.h"
#include "core/model/avatar.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>

namespace zl::formats {

namespace {

using Json = nlohmann::json;

constexpr std::array seenWords{"auto", "both", "thirdPersonOnly", "firstPersonOnly"};
constexpr std::array colourKinds{"color",       "emissionColor", "shadeColor",
                                 "matcapColor", "rimColor",      "outlineColor"};

Expression::Override overrideIn(const Json& expression, const char* key) {
    const std::string word = textIn(expression, key);
    return word == "block"   ? Expression::Override::Block
           : word == "blend" ? Expression::Override::Blend
                             : Expression::Override::None;
}

class Vrm1 {
public:
    Vrm1(const Json& vrm, const GltfPlaces& from, Model& model) : vrm_(vrm), from_(from), model_(model) {}

    Avatar read() {
        avatar_.version = textIn(vrm_, "specVersion").empty() ? "1.0" : textIn(vrm_, "specVersion");
        readLicence();
        for (const auto& [role, bone] : objectIn(objectIn(vrm_, "humanoid"), "humanBones").items()) {
            const int key = keyIn(bone, "node", from_, model_);
            if (!avatar::roleNamed(role) || key == 0)
                drop(fmt::format("bone \"{}\"", role));
            else
                avatar_.bones[role] = key;
        }
        const Json& expressions = objectIn(vrm_, "expressions");
        for (const auto& [name, json] : objectIn(expressions, "preset").items())
            if (avatar::standardExpressionNamed(name))
                readExpression(name, json, false);
            else
                drop(fmt::format("expression \"{}\", which the standard does not know", name));
        for (const auto& [name, json] : objectIn(expressions, "custom").items())
            readExpression(name, json, true);
        readLookAt();
        for (const Json& seen : listIn(objectIn(vrm_, "firstPerson"), "meshAnnotations")) {
            const std::string whom = textIn(seen, "type");
            const int key = keyIn(seen, "node", from_, model_);
            if (key == 0 || std::ranges::find(seenWords, whom) == seenWords.end())
                drop("what the wearer sees of a part that is not there");
            else
                avatar_.seen.push_back({key, whom});
        }
        return std::move(avatar_);
    }

private:
    void drop(const std::string& what) { model_.dropped.push_back("avatar: " + what); }

    void readLicence() {
        const Json& meta = objectIn(vrm_, "meta");
        avatar_.licence = avatar::soundLicence(meta, &model_.dropped);
        if (const int image = indexIn(meta, "thumbnailImage"); image >= 0)
            avatar_.thumbnail = from_.picture(image);
    }

    std::string materialIn(const Json& bind) const {
        const int m = indexIn(bind, "material");
        return m >= 0 && m < int(model_.materials.size()) ? model_.materials[std::size_t(m)].name
                                                          : std::string();
    }

    void readExpression(const std::string& name, const Json& json, bool custom) {
        Expression out{.name = name, .custom = custom, .binary = flagIn(json, "isBinary")};
        for (const Json& bind : listIn(json, "morphTargetBinds")) {
            const int key = keyIn(bind, "node", from_, model_), index = indexIn(bind, "index");
            const int mesh = key == 0 ? -1 : model_.nodes[std::size_t(key - 1)].mesh;
            if (mesh < 0 || index < 0 || index >= int(model_.meshes[std::size_t(mesh)]->morphs.size())) {
                drop(fmt::format("a morph target of \"{}\" that is not there", name));
                continue;
            }
            out.morphs.push_back({key, model_.meshes[std::size_t(mesh)]->morphs[std::size_t(index)].name,
                                  std::clamp(numberIn(bind, "weight", 1), 0.0, 1.0)});
        }
        for (const Json& bind : listIn(json, "materialColorBinds")) {
            const std::string kind = textIn(bind, "type"), material = materialIn(bind);
            const Json& to = listIn(bind, "targetValue");
            Expression::Colour colour{material, kind, glm::dvec4(1)};
            bool sound = !material.empty() && to.size() == 4 &&
                         std::ranges::find(colourKinds, kind) != colourKinds.end();
            for (std::size_t k = 0; k < 4 && sound; ++k)
                if ((sound = to[k].is_number()))
                    colour.to[int(k)] = std::clamp(to[k].get<double>(), -1e6, 1e6);
            if (sound)
                out.colours.push_back(std::move(colour));
            else
                drop(fmt::format("a colour of \"{}\"", name));
        }
        for (const Json& bind : listIn(json, "textureTransformBinds")) {
            Expression::Placement place{materialIn(bind), glm::dvec2(1), glm::dvec2(0)};
            if (place.material.empty()) {
                drop(fmt::format("where pictures lie in \"{}\"", name));
                continue;
            }
            for (const auto& [key, to] :
                 {std::pair{"scale", &place.scale}, std::pair{"offset", &place.offset}}) {
                const Json& pair = listIn(bind, key);
                for (std::size_t k = 0; k < 2 && pair.size() == 2; ++k)
                    if (pair[k].is_number()) (*to)[int(k)] = std::clamp(pair[k].get<double>(), -1e6, 1e6);
            }
            out.placements.push_back(std::move(place));
        }
        out.blink = overrideIn(json, "overrideBlink");
        out.lookAt = overrideIn(json, "overrideLookAt");
        out.mouth = overrideIn(json, "overrideMouth");
        avatar_.expressions.push_back(std::move(out));
    }

    void readLookAt() {
        if (!vrm_.contains("lookAt") || !vrm_["lookAt"].is_object()) return;
        const Json& json = vrm_["lookAt"];
        LookAt out;
        out.by = textIn(json, "type") == "expression" ? LookAt::By::Expressions : LookAt::By::Bones;
        out.eyes = placeIn(json, "offsetFromHeadBone", glm::dvec3(0));
        const auto range = [&](const char* key, LookAt::Range& to) {
            const Json& map = objectIn(json, key);
            to.most = std::clamp(numberIn(map, "inputMaxValue", to.most), 0.0, 180.0);
            to.gives = std::clamp(numberIn(map, "outputScale", to.gives), -1e3, 1e3);
        };
        range("rangeMapHorizontalInner", out.inward), range("rangeMapHorizontalOuter", out.outward);
        range("rangeMapVerticalUp", out.up), range("rangeMapVerticalDown", out.down);
        avatar_.lookAt = out;
    }

    const Json& vrm_;
    const GltfPlaces& from_;
    Model& model_;
    Avatar avatar_;
};

} // namespace

int keyGiven(Model& model, int node) {
    return model.nodes[std::size_t(node)].key = node + 1;
}

int keyIn(const Json& object, const char* member, const GltfPlaces& from, Model& model) {
    const int number = indexIn(object, member);
    if (number < 0 || number >= int(from.nodes.size()) || from.nodes[std::size_t(number)] < 0) return 0;
    return keyGiven(model, from.nodes[std::size_t(number)]);
}

void readVrm1(const Json& vrm, const GltfPlaces& from, Model& model) {
    Avatar avatar = Vrm1(vrm, from, model).read();
    if (const auto found = from.source.extensions.find("VRMC_springBone");
        found != from.source.extensions.end())
        readSprings(jsonOf(found->second), from, model, avatar);
    readConstraints(from, model, avatar);
    model.avatar = std::make_shared<const Avatar>(std::move(avatar));
}

void readAvatar(const GltfPlaces& from, Model& model) {
    const auto& extensions = from.source.extensions;
    if (const auto one = extensions.find("VRMC_vrm"); one != extensions.end())
        readVrm1(jsonOf(one->second), from, model);
    else if (const auto zero = extensions.find("VRM"); zero != extensions.end())
        readVrm0(jsonOf(zero->second), from, model);
    if (model.avatar) model.headingKnown = true; // the standard says +Z
}

} // namespace zl::formats
