// Movement on other bones and from another rest: which bones go together, what comes over exactly, what is
// kept; and skinning against an evaluation of the test's own.
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/bone_map.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"
#include "core/motion/rest_pose.h"
#include "core/motion/taken_clip.h"
#include "support/companions.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <random>

using namespace zl;
using motion::BoneMatch;
using Target = Channel::Target;

namespace {

class Chance {
public:
    explicit Chance(unsigned seed) : random_(seed) {}
    double any(double low = -1, double high = 1) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    glm::dquat turn(double most = 1) {
        return glm::normalize(glm::dquat(1, most * any(), most * any(), most * any()));
    }

private:
    std::mt19937 random_;
};

struct DrawnJoint {
    const char* name;
    int above;
    glm::dvec3 place;
};

/// A figure's trunk and arms, `tall` times as large, each bone turned as `axes` says.
Model puppet(const std::vector<DrawnJoint>& bones, double tall, const std::function<glm::dquat(int)>& axes) {
    Model model = shapes::modelOf(shapes::sphere(8, 6, 0.3 * tall), "body");
    std::vector<glm::dmat4> world;
    Skin skin{"rig", {}, {}, 1};
    for (std::size_t b = 0; b < bones.size(); ++b) {
        const glm::dmat4 at =
            glm::translate(glm::dmat4(1), tall * bones[b].place) * glm::mat4_cast(axes(int(b)));
        const glm::dmat4 above = bones[b].above < 0 ? glm::dmat4(1) : world[std::size_t(bones[b].above)];
        world.push_back(at);
        model.nodes.push_back(
            {bones[b].name, bones[b].above < 0 ? -1 : bones[b].above + 1, glm::inverse(above) * at});
        skin.joints.push_back(int(b) + 1);
        skin.inverseBind.emplace_back(glm::inverse(at));
    }
    Mesh mesh = *model.meshes[0];
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        mesh.joints.emplace_back(v % bones.size(), 0, 0, 0);
        mesh.weights.emplace_back(1, 0, 0, 0);
    }
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.skins.push_back(skin);
    model.nodes[0].skin = 0;
    return model;
}

const std::vector<DrawnJoint> ours{{"hips", -1, {0, 0.5, 0}},        {"spine", 0, {0, 0.65, 0}},
                                   {"head", 1, {0, 0.9, 0}},         {"upperarm.left", 1, {0.1, 0.8, 0}},
                                   {"hand.left", 3, {0.4, 0.8, 0}},  {"upperarm.right", 1, {-0.1, 0.8, 0}},
                                   {"hand.right", 5, {-0.4, 0.8, 0}}};
const std::vector<DrawnJoint> theirs{
    {"rig:Pelvis", -1, {0, 0.5, 0}},      {"rig:Spine", 0, {0, 0.65, 0}},
    {"rig:Kopf", 1, {0, 0.9, 0}},         {"rig:LeftArm", 1, {0.1, 0.8, 0}},
    {"rig:LeftHand", 3, {0.4, 0.8, 0}},   {"rig:RightArm", 1, {-0.1, 0.8, 0}},
    {"rig:RightHand", 5, {-0.4, 0.8, 0}}, {"rig:Feather", 2, {0, 1.4, 0.9}}};

glm::dquat straight(int) {
    return {1, 0, 0, 0};
}

/// A clip that turns every bone and moves the first.
Clip dance(const Model& model, Chance& dice, const std::string& name = "dance") {
    Clip clip{name, {}};
    for (std::size_t n = 1; n < model.nodes.size(); ++n) {
        Channel turn{int(n), Target::Rotation, Channel::Curve::Linear, {0, 0.4f, 1}, {}};
        const glm::dquat rest = motion::turnIn(model.nodes[n].local);
        for (int k = 0; k < 3; ++k) {
            const glm::dquat q = rest * dice.turn(0.4);
            for (const double v : {q.x, q.y, q.z, q.w}) turn.values.push_back(float(v));
        }
        clip.channels.push_back(turn);
    }
    Channel move{1, Target::Translation, Channel::Curve::Linear, {0, 1}, {}};
    const glm::dvec3 at(model.nodes[1].local[3]);
    for (const double far : {0.0, 0.4})
        for (int k = 0; k < 3; ++k) move.values.push_back(float(at[k] + (k == 2 ? far : 0)));
    clip.channels.push_back(move);
    return clip;
}

} // namespace

TEST_CASE("names of bones are one where they mean the same") {
    const std::pair<const char*, const char*> alike[] = {{"upperarm.left", "rig:LeftArm"},
                                                         {"UpperArm_L", "left_upper_arm"},
                                                         {"thigh.R", "RightUpLeg"},
                                                         {"forearm_r", "lower arm right"},
                                                         {"hips", "Pelvis"},
                                                         {"hand.left", "L_Wrist"},
                                                         {"shin.left", "calf_l"},
                                                         {"spine", "Bone_Spine"}};
    for (const auto& [a, b] : alike) {
        INFO(a << " and " << b);
        CHECK(motion::plainBoneName(a) == motion::plainBoneName(b));
    }
    CHECK(motion::plainBoneName("hand.left") != motion::plainBoneName("hand.right"));
    CHECK(motion::plainBoneName("spine1") != motion::plainBoneName("spine2"));
    CHECK(motion::plainBoneName("").empty());
    CHECK(motion::plainBoneName("___").empty());
}

TEST_CASE("bones go together by name, then by what hangs where, then by place; the rest is said") {
    const Model from = puppet(theirs, 2, straight), to = puppet(ours, 1, straight);
    const auto map = motion::mappedBones(from, to);
    CHECK(map.matches.size() == 7);
    CHECK(map.toOf(1) == 1);
    CHECK(map.toOf(4) == 4); // LeftArm and upperarm.left
    CHECK(map.toOf(3) == 3); // Kopf, the only one left below the spine
    CHECK(map.guessed() == 1);
    CHECK(map.leftFrom == std::vector<int>{8});
    CHECK(map.leftTo.empty());
    // Without any names, by place alone.
    auto nameless = theirs;
    nameless.pop_back(); // a bone far out would make the whole another size
    for (DrawnJoint& bone : nameless) bone.name = "b";
    const auto placed = motion::mappedBones(puppet(nameless, 3, straight), to);
    CHECK(placed.matches.size() == 7);
    for (const BoneMatch& match : placed.matches) CHECK(match.from == match.to);
    CHECK(motion::mappedBones(Model{}, to).matches.empty());
}

TEST_CASE("the same bones take a clip over exactly, other axes by how they stand in the world") {
    for (unsigned seed = 1; seed <= 8; ++seed) {
        Chance dice(seed);
        const Model from = puppet(ours, 1, [&](int) { return dice.turn(); });
        const Clip clip = dance(from, dice);
        const auto same = motion::mappedBones(from, from);
        CHECK(same.matches.size() == 7);
        const Clip taken = motion::takenClip(from, clip, from, same);
        for (const double at : {0.0, 0.2, 0.4, 0.7, 1.0}) {
            const auto a = motion::posed(from, clip, at), b = motion::posed(from, taken, at);
            for (std::size_t n = 1; n < from.nodes.size(); ++n)
                for (int c = 0; c < 4; ++c) CHECK(glm::length(a.world[n][c] - b.world[n][c]) < 2e-3);
        }
        // At its keys exactly: between them both go straight, of places in the world and in the parent.
        const Model to = puppet(theirs, 2, [&](int) { return dice.turn(); });
        const Clip other = motion::takenClip(from, clip, to, motion::mappedBones(from, to));
        const auto restFrom = worldMatrices(from), restTo = worldMatrices(to);
        for (const double at : {0.0, 0.4, 1.0}) {
            const auto a = motion::posed(from, clip, at), b = motion::posed(to, other, at);
            for (std::size_t n = 1; n < from.nodes.size(); ++n) {
                const glm::dmat3 turnedA = glm::dmat3(a.world[n]) * glm::inverse(glm::dmat3(restFrom[n])),
                                 turnedB = glm::dmat3(b.world[n]) * glm::inverse(glm::dmat3(restTo[n]));
                for (int c = 0; c < 3; ++c) CHECK(glm::length(turnedA[c] - turnedB[c]) < 1e-4);
            }
            // Twice as tall, twice as far.
            CHECK(glm::length(2.0 * glm::dvec3(a.world[1][3] - restFrom[1][3]) -
                              glm::dvec3(b.world[1][3] - restTo[1][3])) < 1e-4);
        }
    }
}

TEST_CASE("clips from another piece: taken under names of their own, with what was guessed and what moves "
          "nothing") {
    Chance dice(3);
    Model donor = puppet(theirs, 2, straight);
    donor.clips = {std::make_shared<const Clip>(dance(donor, dice)),
                   std::make_shared<const Clip>(dance(donor, dice, "bow"))};
    Model own = puppet(ours, 1, straight);
    own.clips = {std::make_shared<const Clip>(dance(own, dice, "bow"))};
    const Progress progress;
    TestSurroundings around;
    around.add("Stranger", donor, 1);
    const auto run = [&](const nlohmann::json& params) {
        steps::StepContext context{progress, nullptr, &around};
        Model out = steps::makeStep("clips-from", params)->apply(own, context);
        return std::pair(std::move(out), context);
    };
    const auto [out, said] = run({{"from", {{"piece", "Stranger"}}}});
    CHECK(keepsPromises(out));
    REQUIRE(out.clips.size() == 3);
    CHECK(out.clips[1]->name == "dance");
    CHECK(out.clips[2]->name == "bow-2");
    CHECK(said.notes[1] == "by where they are: rig:Kopf → head");
    CHECK(said.shortfall == "moves nothing here: rig:Feather");
    const auto [few, fewSaid] = run({{"from", {{"piece", "Stranger"}}},
                                     {"clips", {"bow"}},
                                     {"pairs", {{{"theirs", "rig:Kopf"}, {"own", ""}}}}});
    CHECK(few.clips.size() == 2);
    CHECK(fewSaid.facts["bones"] == 6);
    CHECK_THROWS_AS(run({{"from", {{"piece", "Stranger"}}}, {"clips", {"swim"}}}), Error);
    CHECK_THROWS_AS(run({{"from", {{"piece", "Nobody"}}}}), Error);
    CHECK_THROWS_AS(
        run({{"from", {{"piece", "Stranger"}}}, {"pairs", {{{"theirs", "tail"}, {"own", "head"}}}}}), Error);
}

TEST_CASE("a rest pose from a clip is seen at rest, and every clip plays as before") {
    for (unsigned seed = 1; seed <= 8; ++seed) {
        Chance dice(seed);
        Model model = puppet(ours, 1, [&](int) { return dice.turn(); });
        model.placement = glm::scale(glm::rotate(glm::dmat4(1), 0.6, glm::dvec3(0, 1, 0)), glm::dvec3(1.3));
        // The second clip leaves half of the bones where they rest.
        Clip half = dance(model, dice, "half");
        std::erase_if(half.channels, [](const Channel& channel) { return channel.node % 2 == 0; });
        model.clips = {std::make_shared<const Clip>(dance(model, dice)), std::make_shared<const Clip>(half)};
        const Model out = motion::withRestFrom(model, *model.clips[0], 0.4);
        CHECK(keepsPromises(out));
        Mesh wanted = geometry::flattened(model);
        motion::poseFlattened(model, motion::posed(model, *model.clips[0], 0.4), wanted);
        const Mesh rest = geometry::flattened(out);
        for (std::size_t v = 0; v < rest.vertexCount(); ++v)
            REQUIRE(glm::distance(rest.positions[v], wanted.positions[v]) < 1e-5);
        CHECK(motion::offBind(out).place < 1e-5);
        Mesh a = wanted, b = rest;
        for (std::size_t c = 0; c < 2; ++c)
            for (const double at : {0.0, 0.3, 0.8}) {
                motion::poseFlattened(model, motion::posed(model, *model.clips[c], at), a);
                motion::poseFlattened(out, motion::posed(out, *out.clips[c], at), b);
                for (std::size_t v = 0; v < a.vertexCount(); ++v)
                    REQUIRE(glm::distance(a.positions[v], b.positions[v]) < 2e-5);
            }
    }
}

TEST_CASE("bones go back to how they were bound, and clips stay to the letter") {
    Chance dice(5);
    Model model = puppet(ours, 1, straight);
    Clip half = dance(model, dice, "half");
    std::erase_if(half.channels, [](const Channel& channel) { return channel.node % 2 == 0; });
    model.clips = {std::make_shared<const Clip>(half)};
    CHECK(ruleResult(model, "id = \"rest-pose\"\ndegrees = 1\nwithin = 0.1").state == platform::State::Fits);
    model.nodes[4].local *= glm::mat4_cast(glm::angleAxis(0.5, glm::dvec3(0, 0, 1)));
    const auto broken = ruleResult(model, "id = \"rest-pose\"\ndegrees = 1\nwithin = 0.1");
    CHECK(broken.state == platform::State::Broken);
    CHECK(broken.finding.value == Approx(glm::degrees(0.5)));
    const auto ran = ranStep(model, "rest-pose", {{"take", "bound"}});
    CHECK(motion::offBind(ran.model).turn < 1e-5);
    Mesh a = geometry::flattened(model), b = a;
    for (const double at : {0.0, 0.4, 0.9}) {
        motion::poseFlattened(model, motion::posed(model, half, at), a);
        motion::poseFlattened(ran.model, motion::posed(ran.model, *ran.model.clips[0], at), b);
        for (std::size_t v = 0; v < a.vertexCount(); ++v)
            CHECK(glm::distance(a.positions[v], b.positions[v]) < 1e-6);
    }
    CHECK(ranStep(ran.model, "rest-pose", {{"take", "bound"}}).notes[0] ==
          "the bones are at rest as they were bound");
    CHECK(ranStep(model, "rest-pose", nlohmann::json::object()).notes[0] == "no clip or pose is named");
    CHECK_THROWS_AS(ranStep(model, "rest-pose", {{"clip", "bow"}}), Error);
}

namespace {

/// Skinning by glTF 2.0, 3.7.3.3, with nothing of the program's own but its matrices as they are stored: each
/// node's transform from its chain, each joint's times its bind, weighed.
glm::dmat4 worldBySelf(const Model& model, const std::map<int, glm::dmat4>& local, int node) {
    glm::dmat4 out(1);
    for (; node >= 0; node = model.nodes[std::size_t(node)].parent) {
        const auto found = local.find(node);
        out = (found == local.end() ? model.nodes[std::size_t(node)].local : found->second) * out;
    }
    return model.placement * out;
}

glm::dvec3 cornerBySelf(const Model& model, const std::map<int, glm::dmat4>& local, std::size_t part,
                        std::size_t v) {
    const Node& node = model.nodes[part];
    const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
    const Skin& skin = model.skins[std::size_t(node.skin)];
    glm::dvec4 sum(0);
    for (int k = 0; k < 4; ++k)
        sum += double(mesh.weights[v][k]) *
               (worldBySelf(model, local, skin.joints[mesh.joints[v][k]]) *
                (glm::dmat4(skin.inverseBind[mesh.joints[v][k]]) * glm::dvec4(mesh.positions[v], 1)));
    return glm::dvec3(sum) / sum.w;
}

} // namespace

TEST_CASE("skinning is what an evaluation of its own comes to, on rigs of every kind") {
    for (unsigned seed = 1; seed <= 40; ++seed) {
        Chance dice(seed);
        Model model;
        model.placement = glm::translate(glm::scale(glm::dmat4(1), glm::dvec3(dice.any(0.2, 3))),
                                         {dice.any(), dice.any(), dice.any()});
        const int nodes = 6 + int(seed % 7), skins = 1 + int(seed % 3);
        for (int n = 0; n < nodes; ++n) {
            glm::dmat4 local = glm::translate(glm::dmat4(1), {dice.any(), dice.any(), dice.any()}) *
                               glm::mat4_cast(dice.turn());
            if (seed % 4 == 1) local = glm::scale(local, glm::dvec3(dice.any(0.3, 2)));
            if (seed % 4 == 2 && n == 2) local = glm::scale(local, {-1, 1, 1}); // mirrored
            if (seed % 4 == 3)
                local = glm::scale(local, {dice.any(0.5, 2), dice.any(0.5, 2), dice.any(0.5, 2)});
            model.nodes.push_back(
                {"n" + std::to_string(n), n == 0 ? -1 : int(dice.any(0, n - 0.001)), local});
        }
        for (int s = 0; s < skins; ++s) { // below the root, as often as not
            Skin skin{"s" + std::to_string(s), {}, {}, 1};
            for (int j = 1 + s; j < nodes; j += 1 + s) {
                skin.joints.push_back(j);
                skin.inverseBind.emplace_back(
                    glm::translate(glm::dmat4(1), {dice.any(), dice.any(), dice.any()}) *
                    glm::mat4_cast(dice.turn()));
            }
            Mesh mesh = shapes::sphere(7, 5);
            for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
                glm::u16vec4 joints(0);
                glm::vec4 weights(0);
                for (int k = 0; k < 4; ++k)
                    joints[k] = std::uint16_t(dice.any(0, double(skin.joints.size()) - 0.001)),
                    weights[k] = float(dice.any(0, 1));
                mesh.joints.push_back(joints),
                    mesh.weights.push_back(weights / (weights.x + weights.y + weights.z + weights.w));
            }
            mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
            model.skins.push_back(skin);
            model.meshes.push_back(std::make_shared<const Mesh>(mesh));
            Node part{"part" + std::to_string(s), 0, glm::translate(glm::dmat4(1), {5.0, 0.0, 0.0}), s, s};
            model.nodes.push_back(part);
        }
        // A clip that turns some of the bones to a known turn at half a second.
        Clip clip{"x", {}};
        std::map<int, glm::dmat4> local;
        if (seed % 4 != 2 && seed % 4 != 3)
            for (int n = 1; n < nodes; n += 2) {
                const glm::dquat q = dice.turn();
                glm::dmat4& at = local[n] = model.nodes[std::size_t(n)].local;
                const double scale = glm::length(glm::dvec3(at[0]));
                const glm::dmat4 turned = glm::scale(glm::mat4_cast(q), glm::dvec3(scale));
                for (int c = 0; c < 3; ++c) at[c] = turned[c];
                clip.channels.push_back({n,
                                         Target::Rotation,
                                         Channel::Curve::Linear,
                                         {0.5f},
                                         {float(q.x), float(q.y), float(q.z), float(q.w)}});
            }
        Mesh flat = geometry::flattened(model);
        motion::poseFlattened(model, motion::posed(model, clip, 0.5), flat);
        std::size_t first = 0;
        for (std::size_t part = std::size_t(nodes); part < model.nodes.size(); ++part) {
            const std::size_t count = model.meshes[std::size_t(model.nodes[part].mesh)]->vertexCount();
            for (std::size_t v = 0; v < count; ++v) {
                const glm::dvec3 wanted = cornerBySelf(model, local, part, v);
                REQUIRE(glm::distance(glm::dvec3(flat.positions[first + v]), wanted) <
                        1e-5 * std::max(1.0, glm::length(wanted)));
            }
            first += count;
        }
    }
}
