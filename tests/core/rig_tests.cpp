// Rigs cleaned: fewer bones a corner, bones left out, bones brought to scale 1; what is seen stays in place.
#include "core/base/error.h"
#include "core/formats/mend_model.h"
#include "core/geometry/corner_weights.h"
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/apart.h"
#include "core/motion/node_curve.h"
#include "core/motion/posed.h"
#include "core/motion/rest_pose.h"
#include "core/motion/scaled_rig.h"
#include "core/planner/planner.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"
#include "support/swimmer.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <limits>
#include <random>

using namespace zl;
using Target = Channel::Target;

namespace {

class Dice {
public:
    explicit Dice(unsigned seed) : random_(seed) {}
    float any(float low = -1, float high = 1) {
        return std::uniform_real_distribution<float>(low, high)(random_);
    }
    glm::quat turn() { return glm::normalize(glm::quat(1, 0.5f * any(), 0.5f * any(), 0.5f * any())); }
    std::mt19937& random() { return random_; }

private:
    std::mt19937 random_;
};

/// A ball on a chain of bones: 0 the ball, 1 what carries the rig, 2 root, 3 spine, 4 arm, 5 a lamp on the
/// arm. `scale` gives what nodes 1 to 4 are scaled by; binds are right for the rest pose.
Model rig(Dice& dice, const std::function<float(int)>& scale) {
    Model model = shapes::modelOf(shapes::sphere(8, 6), "body");
    const char* names[] = {"body", "stand", "root", "spine", "arm", "lamp"};
    for (int n = 1; n <= 5; ++n) {
        glm::dmat4 local = glm::translate(glm::dmat4(1), glm::dvec3(dice.any(), dice.any(), dice.any()));
        local *= glm::mat4_cast(glm::dquat(dice.turn()));
        model.nodes.push_back(
            {names[n], n == 1 ? -1 : n - 1, glm::scale(local, glm::dvec3(n == 5 ? 1 : scale(n)))});
    }
    model.nodes[5].mesh = 1;
    model.meshes.push_back(std::make_shared<const Mesh>(shapes::sphere(6, 4)));
    model.placement = glm::scale(glm::rotate(glm::dmat4(1), 0.4, glm::dvec3(0, 1, 0)), glm::dvec3(0.8));
    Skin skin{"rig", {2, 3, 4}, {}, 2};
    Model bare = model;
    bare.placement = glm::dmat4(1);
    const auto world = worldMatrices(bare);
    for (const int joint : skin.joints)
        skin.inverseBind.emplace_back(glm::inverse(world[std::size_t(joint)]));
    model.skins.push_back(skin);
    model.nodes[0].skin = 0;
    Mesh mesh = *model.meshes[0];
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        mesh.joints.emplace_back(0, 1, 2, 0);
        glm::vec4 w(dice.any(0, 1), dice.any(0, 1), dice.any(0, 1), 0);
        mesh.weights.push_back(w / (w.x + w.y + w.z));
    }
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    Clip clip{"heave", {}};
    for (int n = 1; n <= 5; ++n)
        for (const Target target : {Target::Translation, Target::Rotation, Target::Scale}) {
            Channel channel{.node = n, .target = target};
            if (target == Target::Translation && n % 2) channel.curve = Channel::Curve::CubicSpline;
            for (int k = 0; k < 4; ++k) {
                channel.times.push_back(0.4f * float(k));
                for (int part = 0; part < (channel.curve == Channel::Curve::CubicSpline ? 3 : 1); ++part) {
                    const glm::quat q = dice.turn();
                    if (target == Target::Rotation)
                        channel.values.insert(channel.values.end(), {q.x, q.y, q.z, q.w});
                    else if (target == Target::Scale)
                        for (int i = 0; i < 3; ++i)
                            channel.values.push_back((n == 5 ? 1 : scale(n)) * dice.any(0.8f, 1.2f));
                    else
                        for (int i = 0; i < 3; ++i) channel.values.push_back(dice.any());
                }
            }
            clip.channels.push_back(channel);
        }
    model.clips.push_back(std::make_shared<const Clip>(clip));
    return model;
}

/// Linear blend skinning as the standard has it, written out: a corner of the ball in the world.
glm::dvec3 skinned(const Model& model, const motion::Pose& pose, std::size_t v) {
    const Mesh& mesh = *model.meshes[std::size_t(model.nodes[0].mesh)];
    glm::dvec4 out(0);
    for (int k = 0; k < 4; ++k) {
        const auto j = std::size_t(mesh.joints[v][k]);
        if (mesh.weights[v][k] == 0) continue;
        out += double(mesh.weights[v][k]) *
               (pose.world[std::size_t(model.skins[0].joints[j])] *
                (glm::dmat4(model.skins[0].inverseBind[j]) * glm::dvec4(mesh.positions[v], 1)));
    }
    return glm::dvec3(out);
}

} // namespace

TEST_CASE("the heaviest bones of a corner stay, each once, and weights are 1 together") {
    Dice dice(3);
    Mesh mesh = shapes::sphere(20, 12);
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        mesh.joints.emplace_back(v % 3, 1, 2, v % 5 == 0 ? 1 : 3);
        mesh.weights.emplace_back(dice.any(0, 2), dice.any(0, 1), dice.any(-0.2f, 1), dice.any(0, 1));
    }
    mesh.weights[4].x = std::numeric_limits<float>::quiet_NaN();
    mesh.weights[5] = glm::vec4(0);
    for (const int most : {1, 2, 3, 4}) {
        const auto limited = geometry::withFewWeights(mesh, {most, 0.05});
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            std::map<int, double> pulls;
            for (int k = 0; k < 4; ++k)
                if (mesh.weights[v][k] > 0) pulls[mesh.joints[v][k]] += double(mesh.weights[v][k]);
            std::vector<std::pair<double, int>> order;
            double all = 0, kept = 0;
            for (const auto& [joint, w] : pulls) order.emplace_back(-w, joint), all += w;
            std::ranges::sort(order);
            std::map<int, double> wanted;
            for (std::size_t i = 0; i < order.size() && int(i) < most; ++i)
                if (i == 0 || -order[i].first >= 0.05 * all)
                    wanted[order[i].second] = -order[i].first, kept -= order[i].first;
            std::map<int, double> got;
            for (int k = 0; k < 4; ++k)
                if (limited.mesh.weights[v][k] > 0)
                    got[limited.mesh.joints[v][k]] += double(limited.mesh.weights[v][k]);
            REQUIRE(got.size() == wanted.size());
            for (const auto& [joint, w] : wanted) CHECK(got[joint] == Approx(w / kept).margin(1e-6));
        }
        CHECK(limited.mesh.weights[5] == glm::vec4(0));
    }
}

TEST_CASE("a limit of bones a corner is held by a plan, and what it moves is measured in all clips") {
    Dice dice(5);
    Model model = rig(dice, [](int) { return 1.0f; });
    model.headingKnown = true;
    const auto sheet = sheetWith("id = \"weights-a-corner\"\nmost = 2\nmend = [\"corner-weights\"]");
    const auto plan = planner::plan(model, sheet);
    CHECK(plan.holds);
    REQUIRE(plan.steps.size() == 1);
    CHECK(plan.steps[0].entry.params["most"] == 2);
    const auto ran = ranStep(model, "corner-weights", {{"most", 2}});
    double off = 0;
    for (int k = 0; k <= 11; ++k) {
        const auto before = motion::posed(model, *model.clips[0], 1.2 * k / 11),
                   after = motion::posed(ran.model, *ran.model.clips[0], 1.2 * k / 11);
        for (std::size_t v = 0; v < model.meshes[0]->vertexCount(); ++v)
            off = std::max(off, glm::distance(skinned(model, before, v), skinned(ran.model, after, v)));
    }
    CHECK(off > 0.01);
    CHECK(ran.facts["metres"].get<double>() >= off - 1e-4);
    CHECK(ran.facts["changed"] == model.meshes[0]->vertexCount());
    CHECK(ranStep(ran.model, "corner-weights", {{"most", 2}}).facts["changed"] == 0);
}

TEST_CASE("what hung on bones that are left out hangs on the nearest above that stays") {
    Dice dice(7);
    const Model model = rig(dice, [](int) { return 1.0f; });
    const auto ran = ranStep(model, "leave-out-bones", {{"which", "named"}, {"bones", {"arm"}}});
    CHECK(ran.model.skins[0].joints == std::vector<int>{2, 3});
    REQUIRE(ran.model.skins[0].inverseBind.size() == 2);
    for (std::size_t v = 0; v < model.meshes[0]->vertexCount(); ++v) {
        const glm::vec4 was = model.meshes[0]->weights[v];
        std::map<int, float> now;
        for (int k = 0; k < 4; ++k)
            now[ran.model.meshes[0]->joints[v][k]] += ran.model.meshes[0]->weights[v][k];
        CHECK(now[0] == Approx(was.x).margin(1e-6));
        CHECK(now[1] == Approx(was.y + was.z).margin(1e-6));
    }
    CHECK(brokenPromise(ran.model) == "");
    CHECK_THROWS_AS(ranStep(model, "leave-out-bones", {{"which", "named"}, {"bones", {"*"}}}), Error);
    // The root goes: nothing stays above, so the first that stays takes over.
    const auto rootless = ranStep(model, "leave-out-bones", {{"which", "named"}, {"bones", {"root"}}});
    CHECK(rootless.model.skins[0].joints == std::vector<int>{3, 4});
    CHECK(brokenPromise(rootless.model) == "");

    Model idle = model;
    idle.skins[0].joints.push_back(5);
    idle.skins[0].inverseBind.emplace_back(1.0f);
    const auto unused = ranStep(idle, "leave-out-bones", nlohmann::json::object());
    CHECK(unused.model.skins[0].joints == model.skins[0].joints);
    CHECK(unused.facts["metres"].get<double>() < 1e-6);
    CHECK(ranStep(model, "leave-out-bones", nlohmann::json::object()).facts["left"] == 0);
}

TEST_CASE("a rig at scale 1 is seen where the scaled one was, at every moment") {
    for (unsigned seed = 1; seed <= 12; ++seed) {
        Dice dice(seed);
        Model model = rig(dice, [&](int n) { return n == 3 ? 1.0f : 0.01f * float(20 + 37 * n); });
        if (seed % 2) // of a file in another unit, or of another size
            model.placement =
                glm::scale(glm::rotate(glm::dmat4(1), 0.4, glm::dvec3(0, 1, 0)), glm::dvec3(0.37));
        const auto ran = ranStep(model, "scale-rig", nlohmann::json::object());
        CHECK(motion::scaleOfWhole(model) == Approx(seed % 2 ? 0.37 : 0.8));
        CHECK(motion::scaleOfWhole(ran.model) == 1);
        CHECK(motion::scaledRigNodes(model).size() == 3);
        CHECK(motion::scaledRigNodes(ran.model).empty());
        for (int k = 0; k < 20; ++k) {
            const double at = double(dice.any(-0.1f, 1.3f));
            const auto before = motion::posed(model, *model.clips[0], at),
                       after = motion::posed(ran.model, *ran.model.clips[0], at);
            for (std::size_t v = 0; v < model.meshes[0]->vertexCount(); v += 5)
                REQUIRE(glm::distance(skinned(model, before, v), skinned(ran.model, after, v)) < 1e-5);
            const auto lamp = [](const Model& of, const motion::Pose& pose, std::size_t v) {
                const Mesh& mesh = *of.meshes[std::size_t(of.nodes[5].mesh)];
                return glm::dvec3(pose.world[5] * glm::dvec4(mesh.positions[v], 1));
            };
            for (std::size_t v = 0; v < model.meshes[1]->vertexCount(); v += 3)
                REQUIRE(glm::distance(lamp(model, before, v), lamp(ran.model, after, v)) < 1e-5);
        }
        CHECK(motion::farthestApart(model, ran.model, Progress()) < 1e-5);
    }
    { // a camera that stands beside the rig and takes the whole's scale upon itself otherwise
        Dice dice(31);
        Model beside = rig(dice, [](int) { return 1.0f; });
        beside.nodes.push_back({"camera", -1, glm::translate(glm::dmat4(1), glm::dvec3(1, 2, 3))});
        const auto ran = ranStep(beside, "scale-rig", nlohmann::json::object());
        for (const Node& node : ran.model.nodes)
            if (node.mesh != 0) CHECK(glm::length(glm::dvec3(node.local[0])) == Approx(1));
        const auto before = worldMatrices(beside), after = worldMatrices(ran.model);
        CHECK(glm::distance(glm::dvec3(before[6][3]), glm::dvec3(after[6][3])) < 1e-9);
    }
    Dice dice(9);
    Model uneven = rig(dice, [](int) { return 1.0f; });
    uneven.nodes[3].local = glm::scale(uneven.nodes[3].local, glm::dvec3(1, 2, 1));
    CHECK_THROWS_WITH(ranStep(uneven, "scale-rig", nlohmann::json::object()),
                      Catch::Matchers::Contains("scaled by 1, 2 and 1"));
    uneven.nodes[3].local = glm::dmat4(0);
    CHECK_THROWS_AS(ranStep(uneven, "scale-rig", nlohmann::json::object()), Error);
    CHECK(ranStep(shapes::modelOf(shapes::sphere(8, 6), "ball"), "scale-rig", nlohmann::json::object())
              .notes[0] == "there are no bones, and nothing that clips move");

    // Stiff parts on nodes that a clip moves: one that shows something itself, and one that only hangs there.
    for (unsigned seed = 21; seed < 27; ++seed) {
        Dice moved(seed);
        Model parts = rig(moved, [&](int n) { return 0.01f * float(30 + 25 * n); });
        Mesh stiff = *parts.meshes[0];
        stiff.joints.clear(), stiff.weights.clear();
        parts.meshes = {std::make_shared<const Mesh>(stiff)};
        parts.skins.clear();
        parts.nodes[0].skin = -1;
        parts.nodes[2].mesh = parts.nodes[5].mesh = 0;
        const Model plain = ranStep(parts, "scale-rig", nlohmann::json::object()).model;
        CHECK(brokenPromise(plain).empty());
        CHECK(motion::scaledRigNodes(plain).empty());
        CHECK(motion::farthestApart(parts, plain, Progress()) < 1e-5);
    }
}

TEST_CASE("a node's curve is how far it goes in the world and how much it turns in its parent") {
    Dice dice(21);
    const Model model = rig(dice, [](int n) { return 0.5f + 0.2f * float(n); });
    const Clip& clip = *model.clips[0];
    const int samples = 31;
    const auto curve = motion::curveOf(model, clip, 4, samples);
    REQUIRE(curve.ways.size() == std::size_t(samples));
    const auto first = motion::posed(model, clip, 0);
    for (int i = 0; i < samples; ++i) {
        const double at = motion::lengthOf(clip) * i / (samples - 1);
        const auto pose = motion::posed(model, clip, at);
        CHECK(glm::distance(curve.ways[std::size_t(i)],
                            glm::dvec3(pose.world[4][3]) - glm::dvec3(first.world[4][3])) < 1e-9);
    }
    Model one = shapes::modelOf(shapes::sphere(8, 6), "door");
    Channel turn{.node = 0, .target = Target::Rotation, .times = {0, 1}};
    for (const double angle : {20.0, 80.0}) {
        const glm::dquat q = glm::angleAxis(glm::radians(angle), glm::dvec3(0, 1, 0));
        turn.values.insert(turn.values.end(), {float(q.x), float(q.y), float(q.z), float(q.w)});
    }
    CHECK(motion::curveOf(one, {"open", {turn}}, 0, 3).turns[2] == Approx(60).margin(1e-3));
    CHECK(motion::curveOf(one, {"open", {turn}}, 0, 3).turns[1] == Approx(30).margin(1e-3));
    CHECK(motion::curveOf(one, {"none", {}}, 0).turns.empty());
    CHECK(motion::curveOf(one, {"open", {turn}}, 7).turns.empty());
}

TEST_CASE("A bone pressed flat in a pose is named when that pose shall be the rest pose") {
    Model model = swimmer();
    Clip flat{"flat", {{2, Channel::Target::Scale, Channel::Curve::Linear, {0, 1}, {1, 1, 1, 0, 0, 0}}}};
    model.clips = {std::make_shared<const Clip>(flat)};
    CHECK_NOTHROW(motion::withRestFrom(model, flat, 0.5));
    CHECK_THROWS_WITH(motion::withRestFrom(model, flat, 1), Catch::Contains("\"tail\" has no size"));
}

TEST_CASE("Hide says which pictures only the hidden wore") {
    Model model = swimmer();
    const auto worn = usedImages(model).size();
    REQUIRE(worn > 0);
    const auto hide = steps::makeStep("hide");
    hide->setParams({{"of", {"*"}}});
    Progress progress;
    steps::StepContext context{progress, nullptr, nullptr};
    hide->apply(model, context);
    CHECK(fmt::format("{}", fmt::join(context.notes, "; ")).find("picture") != std::string::npos);
}

TEST_CASE("a skinned mesh is measured where its bones show it, wherever its node stands") {
    const Model plain = swimmer();
    const auto right = geometry::worldBounds(plain);
    const auto read = [](const Model& model) {
        Model out = model;
        formats::mendModel(out);
        return out;
    };
    const auto off = [&](const Model& model) {
        const auto bounds = geometry::worldBounds(model);
        return std::max(glm::distance(bounds.min, right.min), glm::distance(bounds.max, right.max));
    };
    CHECK(read(plain).nodes[5].local == plain.nodes[5].local);

    // As tools leave it: the node keeps a scale, a place and a parent of its own, none of which is looked at.
    Model elsewhere = plain;
    elsewhere.nodes[5].local =
        glm::scale(glm::translate(glm::dmat4(1), glm::dvec3(3, 40, -2)), glm::dvec3(100));
    elsewhere.nodes[5].parent = 0;
    CHECK(off(elsewhere) > 10);
    CHECK(off(read(elsewhere)) < 1e-5);

    // Corners kept in centimetres, and binds that say so.
    Model small = plain;
    Mesh mesh = *small.meshes[0];
    for (glm::vec3& p : mesh.positions) p *= 100.0f;
    small.meshes[0] = std::make_shared<const Mesh>(mesh);
    for (glm::mat4& bind : small.skins[0].inverseBind) bind = glm::scale(bind, glm::vec3(0.01f));
    CHECK(off(small) > 10);
    CHECK(off(read(small)) < 1e-4);

    // What hangs on the node would go along, and a clip would take it back: it stays. So does one that is
    // bent at rest, and one whose parent is pressed flat.
    const auto stays = [&](Model model) {
        const auto was = model.nodes[5].local;
        model = read(model);
        return model.nodes[5].local == was;
    };
    Model carries = elsewhere;
    carries.nodes.push_back({"lamp", 5, glm::dmat4(1)});
    CHECK(stays(carries));
    Model moves = elsewhere;
    moves.clips.push_back(std::make_shared<const Clip>(
        Clip{"up", {{.node = 5, .target = Target::Translation, .times = {0}, .values = {0, 1, 0}}}}));
    CHECK(stays(moves));
    Model bent = elsewhere;
    bent.nodes[2].local = glm::rotate(bent.nodes[2].local, 0.5, glm::dvec3(0, 1, 0));
    CHECK(stays(bent));
    Model flat = elsewhere;
    flat.nodes[5] = {"pressed", -1, glm::scale(glm::dmat4(1), glm::dvec3(1, 0, 1))};
    flat.nodes.push_back({"body", 5, glm::dmat4(1), 0, 0});
    CHECK(read(flat).nodes[6].local == glm::dmat4(1));
}
