// An avatar of the mirror: VRM 1.0 by a reader of its own.
#include "standins/mirror/figure.h"

#include "standins/world/files.h"
#include "standins/world/glb_data.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/type_ptr.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::mirror {

namespace {

using Json = nlohmann::json;
using world::BrokenGlb;
using world::GlbData;

constexpr int pictureEdge = 4096;

const Json& member(const Json& object, const char* key) {
    static const Json none = Json::object();
    const auto found = object.is_object() ? object.find(key) : object.end();
    return object.is_object() && found != object.end() ? *found : none;
}

float decimal(const Json& object, const char* key, float otherwise) {
    const Json& value = member(object, key);
    const float number = value.is_number() ? value.get<float>() : otherwise;
    if (!std::isfinite(number)) throw BrokenGlb{fmt::format("\"{}\" is no number", key)};
    return number;
}

template <class V>
V vectorIn(const Json& object, const char* key, V otherwise) {
    const Json& list = member(object, key);
    if (!list.is_array()) return otherwise;
    if (list.size() != std::size_t(V::length())) throw BrokenGlb{fmt::format("\"{}\" is incomplete", key)};
    for (int k = 0; k < V::length(); ++k) {
        otherwise[k] = list[std::size_t(k)].get<float>();
        if (!std::isfinite(otherwise[k])) throw BrokenGlb{fmt::format("\"{}\" is no number", key)};
    }
    return otherwise;
}

class Reading {
public:
    Reading(const std::string& bytes, Figure& figure) : data_(bytes), out_(figure) {}

    /// What the game finds wrong with it though it can be read.
    std::vector<std::pair<std::string, std::string>> wrong;

    void read() {
        readNodes();
        readMaterials();
        for (const Json& skin : data_.list("skins")) readSkin(skin);
        for (std::size_t n = 0; n < data_.list("nodes").size(); ++n)
            if (data_.list("nodes")[n].contains("mesh")) readParts(n);
        const Json& vrm = data_.extension("VRMC_vrm");
        if (!vrm.is_object()) throw BrokenGlb{"it says nothing by VRMC_vrm"};
        readMeta(member(vrm, "meta"), vrm);
        for (const auto& [role, bone] : member(member(vrm, "humanoid"), "humanBones").items())
            out_.bones[role] = nodeIn(bone, "node");
        const Json& faces = member(vrm, "expressions");
        for (const auto& [name, face] : member(faces, "preset").items()) readFace(name, face, true);
        for (const auto& [name, face] : member(faces, "custom").items()) readFace(name, face, false);
        if (vrm.contains("lookAt")) readLook(vrm["lookAt"]);
        readSwinging(data_.extension("VRMC_springBone"));
        judge();
    }

private:
    void readNodes() {
        const Json& nodes = data_.list("nodes");
        if (nodes.size() > limits::nodes) throw BrokenGlb{"it has too many nodes"};
        std::vector<int> above(nodes.size(), -1);
        for (std::size_t n = 0; n < nodes.size(); ++n)
            for (const Json& child : member(nodes[n], "children")) {
                const auto c = child.get<std::size_t>();
                if (c >= nodes.size() || above[c] >= 0 || c == n)
                    throw BrokenGlb{"its nodes hang in no tree"};
                above[c] = int(n);
            }
        // Those above come first here, wherever they stand in the file.
        own_.assign(nodes.size(), -1);
        std::vector<std::size_t> open;
        for (std::size_t n = nodes.size(); n-- > 0;)
            if (above[n] < 0) open.push_back(n);
        while (!open.empty()) {
            const std::size_t n = open.back();
            open.pop_back();
            own_[n] = int(out_.nodes.size());
            Node node;
            node.name = nodes[n].value("name", "");
            node.above = above[n] < 0 ? -1 : own_[std::size_t(above[n])];
            node.place = vectorIn(nodes[n], "translation", glm::vec3(0));
            node.scale = vectorIn(nodes[n], "scale", glm::vec3(1));
            const glm::vec4 q = vectorIn(nodes[n], "rotation", glm::vec4(0, 0, 0, 1));
            node.turn = glm::length(q) > 1e-6f ? glm::normalize(glm::quat(q.w, q.x, q.y, q.z)) : node.turn;
            if (nodes[n].contains("matrix")) takeApart(nodes[n]["matrix"], node);
            out_.nodes.push_back(std::move(node));
            for (const Json& child : member(nodes[n], "children")) open.push_back(child.get<std::size_t>());
        }
        if (out_.nodes.size() != nodes.size()) throw BrokenGlb{"its nodes hang in a ring"};
    }

    static void takeApart(const Json& list, Node& node) {
        if (!list.is_array() || list.size() != 16) throw BrokenGlb{"a node's matrix is incomplete"};
        glm::mat4 m;
        for (int k = 0; k < 16; ++k) {
            m[k / 4][k % 4] = list[std::size_t(k)].get<float>();
            if (!std::isfinite(m[k / 4][k % 4])) throw BrokenGlb{"a node's matrix is no numbers"};
        }
        node.place = glm::vec3(m[3]);
        node.scale = {glm::length(glm::vec3(m[0])), glm::length(glm::vec3(m[1])),
                      glm::length(glm::vec3(m[2]))};
        const glm::vec3 safe = glm::max(node.scale, glm::vec3(1e-12f));
        glm::mat3 turn(glm::vec3(m[0]) / safe.x, glm::vec3(m[1]) / safe.y, glm::vec3(m[2]) / safe.z);
        if (glm::determinant(turn) < 0) turn[0] = -turn[0], node.scale.x = -node.scale.x;
        node.turn = glm::normalize(glm::quat_cast(turn));
    }

    int nodeIn(const Json& object, const char* key) const {
        const std::size_t n = GlbData::number(object, key);
        if (n >= own_.size()) throw BrokenGlb{"a node is not there"};
        return own_[n];
    }

    void readMaterials() {
        for (std::size_t m = 0; m < data_.list("materials").size(); ++m) {
            const GlbData::Look look = data_.look(m);
            Material material{look.name, look.colour, std::nullopt};
            if (look.hasPicture) {
                world::Judged judged = world::judgedPicture(look.pictureBytes, pictureEdge, false);
                material.picture = std::move(judged.picture);
                if (!material.picture)
                    wrong.emplace_back("A picture of \"" + look.name + "\" is refused", judged.text);
            }
            out_.materials.push_back(std::move(material));
        }
    }

    void readSkin(const Json& skin) {
        std::vector<Bind> binds;
        std::vector<glm::mat4> matrices;
        if (skin.contains("inverseBindMatrices"))
            matrices = data_.floats<glm::mat4>(GlbData::number(skin, "inverseBindMatrices"));
        for (const Json& joint : member(skin, "joints")) {
            const auto n = joint.get<std::size_t>();
            if (n >= own_.size()) throw BrokenGlb{"a skin's bone is not there"};
            binds.push_back(
                {own_[n], binds.size() < matrices.size() ? matrices[binds.size()] : glm::mat4(1)});
        }
        out_.skins.push_back(std::move(binds));
    }

    void readParts(std::size_t n) {
        const Json& node = data_.list("nodes")[n];
        const std::size_t mesh = GlbData::number(node, "mesh");
        if (mesh >= data_.list("meshes").size()) throw BrokenGlb{"a mesh is not there"};
        for (const Json& primitive : data_.list("meshes")[mesh].at("primitives")) {
            const Json& attributes = primitive.at("attributes");
            Part part;
            part.node = own_[n];
            if (node.contains("skin")) {
                part.skin = int(GlbData::number(node, "skin"));
                if (part.skin >= int(out_.skins.size())) throw BrokenGlb{"a skin is not there"};
            }
            part.places = data_.vectors<glm::vec3>(attributes, "POSITION");
            const std::size_t count = part.places.size();
            part.normals = data_.vectors<glm::vec3>(attributes, "NORMAL");
            part.uvs = data_.vectors<glm::vec2>(attributes, "TEXCOORD_0");
            if (part.normals.size() != count) part.normals.clear();
            if (part.uvs.size() != count) part.uvs.assign(count, glm::vec2(0));
            if (part.skin >= 0 && attributes.contains("JOINTS_0")) {
                const auto joints = data_.wholes(GlbData::number(attributes, "JOINTS_0"), 4);
                part.weights = data_.vectors<glm::vec4>(attributes, "WEIGHTS_0");
                if (joints.size() != 4 * count || part.weights.size() != count)
                    throw BrokenGlb{"weights are not one for each corner"};
                for (std::size_t v = 0; v < count; ++v) {
                    part.joints.emplace_back(joints[4 * v], joints[4 * v + 1], joints[4 * v + 2],
                                             joints[4 * v + 3]);
                    for (int k = 0; k < 4; ++k)
                        if (part.weights[v][k] > 0 &&
                            part.joints[v][k] >= out_.skins[std::size_t(part.skin)].size())
                            throw BrokenGlb{"a corner hangs on a bone that its skin has not"};
                }
            } else {
                part.skin = -1;
            }
            for (const Json& target : member(primitive, "targets")) {
                part.morphs.push_back(data_.vectors<glm::vec3>(target, "POSITION"));
                if (part.morphs.back().size() != count) part.morphs.back().assign(count, glm::vec3(0));
            }
            part.corners = data_.wholes(GlbData::number(primitive, "indices"), 1);
            part.corners.resize(part.corners.size() / 3 * 3);
            if (std::ranges::any_of(part.corners, [&](std::uint32_t c) { return c >= count; }))
                throw BrokenGlb{"a triangle's corner is not there"};
            if (primitive.contains("material")) {
                part.material = int(GlbData::number(primitive, "material"));
                if (part.material >= int(out_.materials.size())) throw BrokenGlb{"a material is not there"};
            }
            out_.triangles += part.corners.size() / 3;
            out_.parts.push_back(std::move(part));
        }
    }

    void readMeta(const Json& meta, const Json& vrm) {
        out_.version = vrm.value("specVersion", "");
        out_.name = meta.value("name", "");
        for (const Json& author : member(meta, "authors"))
            if (author.is_string() && author != "") out_.authors.push_back(author);
        out_.licence = meta.value("licenseUrl", "");
        out_.wearer = meta.value("avatarPermission", "onlyAuthor");
    }

    void readFace(const std::string& name, const Json& json, bool preset) {
        Face face{name, preset, json.value("isBinary", false), {}, {}};
        face.blink = json.value("overrideBlink", "none"), face.look = json.value("overrideLookAt", "none");
        face.mouth = json.value("overrideMouth", "none");
        for (const Json& bind : member(json, "morphTargetBinds")) {
            const int node = nodeIn(bind, "node");
            const std::size_t index = GlbData::number(bind, "index");
            const bool known = std::ranges::any_of(out_.parts, [&](const Part& part) {
                return part.node == node && index < part.morphs.size();
            });
            if (!known)
                throw BrokenGlb{fmt::format("the expression {} moves a target that is not there", name)};
            face.morphs.push_back({node, index, decimal(bind, "weight", 1)});
        }
        for (const Json& bind : member(json, "materialColorBinds")) {
            const std::size_t m = GlbData::number(bind, "material");
            if (m >= out_.materials.size())
                throw BrokenGlb{"an expression colours a material that is not there"};
            if (bind.value("type", "") == "color") // as screens show it
                face.colours.push_back(
                    {int(m), glm::sqrt(glm::clamp(glm::vec3(vectorIn(bind, "targetValue", glm::vec4(1))),
                                                  0.0f, 1.0f))});
        }
        out_.faces.push_back(std::move(face));
    }

    void readLook(const Json& json) {
        Look look;
        look.byBones = json.value("type", "bone") == "bone";
        look.eyes = vectorIn(json, "offsetFromHeadBone", glm::vec3(0));
        const auto range = [&](const char* key, Look::Range& to) {
            to.most = decimal(member(json, key), "inputMaxValue", 90);
            to.gives = decimal(member(json, key), "outputScale", look.byBones ? 10 : 1);
        };
        range("rangeMapHorizontalInner", look.inward), range("rangeMapHorizontalOuter", look.outward);
        range("rangeMapVerticalUp", look.up), range("rangeMapVerticalDown", look.down);
        out_.look = look;
    }

    void readSwinging(const Json& json) {
        for (const Json& one : member(json, "colliders")) {
            const Json& shape = member(one, "shape");
            const bool capsule = shape.contains("capsule");
            const Json& own = member(shape, capsule ? "capsule" : "sphere");
            Ball ball{
                nodeIn(one, "node"), vectorIn(own, "offset", glm::vec3(0)), {}, decimal(own, "radius", 0)};
            ball.to = capsule ? vectorIn(own, "tail", glm::vec3(0)) : ball.from;
            out_.balls.push_back(ball);
        }
        std::vector<std::vector<int>> groups;
        for (const Json& group : member(json, "colliderGroups")) {
            auto& own = groups.emplace_back();
            for (const Json& ball : member(group, "colliders")) {
                if (ball.get<std::size_t>() >= out_.balls.size()) throw BrokenGlb{"a collider is not there"};
                own.push_back(ball.get<int>());
            }
        }
        for (const Json& spring : member(json, "springs")) {
            std::vector<int> balls;
            for (const Json& group : member(spring, "colliderGroups")) {
                if (group.get<std::size_t>() >= groups.size())
                    throw BrokenGlb{"a group of colliders is not there"};
                balls.insert(balls.end(), groups[group.get<std::size_t>()].begin(),
                             groups[group.get<std::size_t>()].end());
            }
            const Json& joints = member(spring, "joints");
            for (std::size_t k = 0; k + 1 < joints.size();
                 ++k) // the last one is only where the one before ends
                out_.swinging.push_back(
                    {nodeIn(joints[k], "node"), nodeIn(joints[k + 1], "node"),
                     decimal(joints[k], "hitRadius", 0), decimal(joints[k], "stiffness", 1),
                     decimal(joints[k], "gravityPower", 0), decimal(joints[k], "dragForce", 0.5f),
                     vectorIn(joints[k], "gravityDir", glm::vec3(0, -1, 0)), balls});
        }
    }

    /// What the standard demands, and this game on top of it.
    void judge() {
        if (out_.version != "1.0")
            wrong.emplace_back("It is no VRM 1.0", "specVersion says \"" + out_.version + "\".");
        for (const char* bone : limits::bones)
            if (!out_.bones.contains(bone))
                wrong.emplace_back(fmt::format("humanoid.humanBones.{} is missing", bone),
                                   "The standard requires it, and the mirror moves it.");
        for (const char* face : limits::faces)
            if (std::ranges::find(out_.faces, std::string_view(face), &Face::name) == out_.faces.end())
                wrong.emplace_back(fmt::format("expressions.preset.{} is missing", face),
                                   "Others would see nothing of it.");
        if (out_.name.empty()) wrong.emplace_back("meta.name is missing", "The standard requires it.");
        if (out_.authors.empty())
            wrong.emplace_back("meta.authors is missing", "The standard requires at least one.");
        if (out_.licence.empty())
            wrong.emplace_back("meta.licenseUrl is missing", "The standard requires it.");
    }

    GlbData data_;
    Figure& out_;
    std::vector<int> own_; ///< by the file's node
};

} // namespace

std::optional<Figure> loadFigure(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    std::vector<std::string> found;
    std::error_code problem;
    for (const auto& entry : std::filesystem::directory_iterator(folder, problem))
        if (entry.path().extension() == ".vrm") found.push_back(entry.path().filename().string());
    if (found.size() != 1) {
        files.say(Message::Kind::Refused, {},
                  found.empty() ? "There is no avatar here" : "There are several avatars here",
                  "One file NAME.vrm is taken.");
        return std::nullopt;
    }
    const std::string& name = found.front();
    const auto bytes = files.bytes(name);
    if (!bytes) return std::nullopt;
    Figure figure;
    figure.file = name, figure.bytes = bytes->size();
    try {
        Reading reading(*bytes, figure);
        reading.read();
        for (const auto& [text, detail] : reading.wrong)
            files.say(Message::Kind::Refused, name, text, detail);
    } catch (const BrokenGlb& broken) {
        files.say(Message::Kind::Refused, name, "It cannot be read", broken.why + ".");
        return std::nullopt;
    } catch (const Json::exception&) {
        files.say(Message::Kind::Refused, name, "It cannot be read",
                  "Its description has another form than the standard's.");
        return std::nullopt;
    }
    files.sayLimit(name, showNumber(double(figure.triangles), 0) + " triangles", double(figure.triangles),
                   double(limits::triangles));
    files.sayLimit(name, showNumber(double(figure.materials.size()), 0) + " materials",
                   double(figure.materials.size()), double(limits::materials));
    if (!figure.look) files.say(Message::Kind::Odd, name, "lookAt is missing", "Its eyes follow nobody.");
    if (files.refused()) return std::nullopt;
    report.accepted = true;
    return figure;
}

} // namespace zl::standins::mirror
