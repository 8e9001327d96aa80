// Clips cleaned: kept on the spot, cut, closed, given fewer keys and other names; and the rules about them.
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/formats/format.h"
#include "core/model/promises.h"
#include "core/motion/channel_keys.h"
#include "core/motion/loop.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"
#include "core/motion/travel.h"
#include "core/planner/planner.h"
#include "support/quickest.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/rule_sheet.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <random>

using namespace zl;
using Target = Channel::Target;
using Curve = Channel::Curve;

namespace {

/// A root that walks 1.2 m along `way` in 1.2 s and bobs, a spine and an arm below it, all in one skin, and a
/// pedestal above it that may turn.
Model walker(Curve curve, bool pedestalTurns, std::mt19937& random) {
    std::uniform_real_distribution<float> any(-1, 1);
    Model model = shapes::modelOf(shapes::sphere(8, 6), "body");
    model.nodes.push_back({"pedestal", -1,
                           glm::scale(glm::rotate(glm::translate(glm::dmat4(1), {0.3, 0, any(random)}),
                                                  double(any(random)), glm::dvec3(0.2, 1, 0.1)),
                                      glm::dvec3(0.5, 0.5, 0.5))});
    model.nodes.push_back({"root", 1, glm::translate(glm::dmat4(1), {0, 1, 0})});
    model.nodes.push_back({"spine", 2, glm::translate(glm::dmat4(1), {0, 0.4, 0})});
    model.nodes.push_back({"arm", 3, glm::translate(glm::dmat4(1), {0.3, 0.2, 0})});
    model.placement = glm::scale(glm::rotate(glm::dmat4(1), 0.7, glm::dvec3(0, 1, 0)), glm::dvec3(0.9));
    Mesh mesh = *model.meshes[0];
    mesh.joints.assign(mesh.vertexCount(), glm::u16vec4(0, 1, 2, 0));
    mesh.weights.assign(mesh.vertexCount(), glm::vec4(0.5f, 0.3f, 0.2f, 0));
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.skins.push_back({"rig", {2, 3, 4}, std::vector<glm::mat4>(3, glm::mat4(1)), 2});
    model.nodes[0].skin = 0;
    Clip clip{"walk", {}};
    Channel way{.node = 2, .target = Target::Translation, .curve = curve};
    for (int k = 0; k <= 12; ++k) {
        const float t = 0.1f * float(k);
        way.times.push_back(t);
        const auto add = [&](glm::vec3 v) { way.values.insert(way.values.end(), {v.x, v.y, v.z}); };
        if (curve == Curve::CubicSpline) add({any(random), any(random), any(random)});
        add({0.1f * any(random) + t, 1 + 0.05f * any(random), 2 * t});
        if (curve == Curve::CubicSpline) add({any(random), any(random), any(random)});
    }
    clip.channels.push_back(way);
    for (const int bone : pedestalTurns ? std::vector<int>{1, 3, 4} : std::vector<int>{3, 4}) {
        Channel turn{.node = bone, .target = Target::Rotation};
        for (int k = 0; k < 5; ++k) {
            turn.times.push_back(0.3f * float(k));
            const glm::quat q =
                glm::normalize(glm::quat(1, 0.4f * any(random), 0.4f * any(random), 0.4f * any(random)));
            turn.values.insert(turn.values.end(), {q.x, q.y, q.z, q.w});
        }
        clip.channels.push_back(turn);
    }
    model.clips.push_back(std::make_shared<const Clip>(clip));
    return model;
}

Channel randomChannel(Target target, Curve curve, std::mt19937& random, int keys = 9) {
    std::uniform_real_distribution<float> any(-1, 1);
    Channel out{.node = 0, .target = target, .curve = curve};
    const int width = target == Target::Rotation ? 4 : 3;
    float at = 0.1f;
    for (int k = 0; k < keys; ++k) {
        out.times.push_back(at += 0.05f + 0.1f * std::abs(any(random)));
        for (int part = 0; part < (curve == Curve::CubicSpline ? 3 : 1); ++part)
            for (int i = 0; i < width; ++i)
                out.values.push_back(any(random) + (part == 1 && i == 3 ? 2.0f : 0));
    }
    return out;
}

double most(const glm::dmat4& a, const glm::dmat4& b) {
    double off = 0;
    for (int i = 0; i < 4; ++i)
        for (int k = 0; k < 4; ++k) off = std::max(off, std::abs(a[i][k] - b[i][k]));
    return off;
}

} // namespace

TEST_CASE("what carries a clip stays on the spot, and all below it moves as it did about it") {
    std::mt19937 random(14);
    for (int round = 0; round < 24; ++round) {
        const Curve curve = round % 3 == 0   ? Curve::Linear
                            : round % 3 == 1 ? Curve::CubicSpline
                                             : Curve::Step;
        const bool pedestal = round % 4 == 3;
        const Model model = walker(curve, pedestal, random);
        const Clip& was = *model.clips[0];
        INFO("round " << round);
        CHECK(motion::carrierOf(model, was) == 2);
        CHECK(motion::travelOf(model, was).groundDrift() > 0.2);
        for (const bool steady : {true, false}) {
            const Clip is = motion::standing(model, was, 2, {{true, false, true}, steady});
            Model other = model;
            other.clips[0] = std::make_shared<const Clip>(is);
            CHECK(brokenPromise(other) == "");
            CHECK(motion::travelOf(model, is).groundDrift() < 1e-4);
            for (double t = 0; t <= 1.2; t += 0.037) {
                const auto a = motion::posed(model, was, t), b = motion::posed(model, is, t);
                const double exact =
                    pedestal ? 2e-3 : 1e-5; // between samples a turning pedestal bends the way
                CHECK(std::abs(a.world[2][3].y - b.world[2][3].y) < exact);
                for (const std::size_t bone : {3u, 4u})
                    CHECK(most(glm::inverse(a.world[2]) * a.world[bone],
                               glm::inverse(b.world[2]) * b.world[bone]) < 1e-5);
                if (steady) continue;
                const auto start = motion::posed(model, was, 0);
                CHECK(std::hypot(b.world[2][3].x - start.world[2][3].x,
                                 b.world[2][3].z - start.world[2][3].z) < exact);
            }
        }
        // The steady part alone: what is taken out grows evenly with time.
        if (pedestal || curve != Curve::Linear) continue;
        const Clip is = motion::standing(model, was, 2, {{true, true, true}, true});
        const glm::dvec3 drift = motion::travelOf(model, was).drift();
        for (double t = 0; t <= 1.2; t += 0.1) {
            const glm::dvec3 off(motion::posed(model, was, t).world[2][3] -
                                 motion::posed(model, is, t).world[2][3]);
            CHECK(glm::distance(off, drift * (t / 1.2)) < 1e-5);
        }
    }
}

TEST_CASE("the node that carries the whole is the lowest that has everything below it") {
    std::mt19937 random(3);
    Model model = walker(Curve::Linear, false, random);
    Clip clip = *model.clips[0];
    Channel pedestal = clip.channels[0], arm = clip.channels[0];
    pedestal.node = 1, arm.node = 4;
    clip.channels.insert(clip.channels.begin(), pedestal);
    clip.channels.push_back(arm);
    CHECK(motion::carrierOf(model, clip) == 2);
    model.clips[0] = std::make_shared<const Clip>(clip);
    const auto ran = ranStep(model, "stay-on-the-spot", nlohmann::json::object());
    CHECK(motion::travelOf(ran.model, *ran.model.clips[0]).groundDrift() < 1e-4);
    CHECK(motion::carrierOf(model, Clip{"still", {}}) == -1);
    CHECK(motion::travelOf(model, Clip{"still", {}}).places.empty());
    // Ten thousand nodes in a row, all of which a clip moves.
    Model deep;
    Clip long_{"long", {}};
    for (int n = 0; n < 10000; ++n) {
        deep.nodes.push_back({"n", n - 1});
        Channel way = clip.channels[0];
        way.node = n;
        long_.channels.push_back(way);
    }
    const double seconds = quickestOfThree([&] { CHECK(motion::carrierOf(deep, long_) == 0); });
    CHECK(seconds < 0.5);
}

TEST_CASE("a piece cut out of a clip goes as the clip goes there, whatever its curve") {
    std::mt19937 random(8);
    for (const Target target : {Target::Translation, Target::Rotation, Target::Scale})
        for (const Curve curve : {Curve::Linear, Curve::Step, Curve::CubicSpline})
            for (int round = 0; round < 10; ++round) {
                const Channel whole = randomChannel(target, curve, random);
                std::uniform_real_distribution<double> moment(-0.1, double(whole.times.back()) + 0.2);
                const double a = moment(random), b = moment(random), from = std::min(a, b),
                             to = std::max(a, b);
                const Channel piece = motion::cut(whole, from, to);
                INFO(int(target) << " " << int(curve) << " from " << from << " to " << to);
                CHECK(std::ranges::is_sorted(piece.times));
                CHECK(piece.times.front() == Approx(0).margin(1e-6));
                CHECK(double(piece.times.back()) == Approx(to - from).margin(1e-6));
                for (double t = from + 1e-4; t < to; t += 0.0131) {
                    if (curve == Curve::Step && // a float's width beside a jump either side will do
                        std::ranges::any_of(whole.times, [&](float key) { return std::abs(key - t) < 1e-5; }))
                        continue;
                    const auto is = motion::valueAt(piece, t - from), was = motion::valueAt(whole, t);
                    REQUIRE(is.size() == was.size());
                    CHECK(motion::distanceBetween(target, is.data(), was.data(), is.size()) < 3e-4);
                }
            }
}

TEST_CASE("thinned keys stay within what is allowed, and only needed ones stay") {
    Channel line{.node = 0, .target = Target::Translation};
    for (int k = 0; k <= 100; ++k) {
        line.times.push_back(0.1f * float(k));
        line.values.insert(line.values.end(), {float(k), 0, -2.0f * float(k)});
    }
    CHECK(motion::thinned(line, 1e-4).times.size() == 2);
    Channel corner = line;
    for (int k = 50; k <= 100; ++k) corner.values[3 * std::size_t(k) + 1] = float(k - 50);
    CHECK(motion::thinned(corner, 1e-4).times ==
          std::vector<float>{line.times[0], line.times[50], line.times[100]});
    Channel still = line;
    std::ranges::fill(still.values, 0.25f);
    CHECK(motion::thinned(still, 0).times.size() == 1);
    std::mt19937 random(5);
    for (const Target target : {Target::Translation, Target::Rotation, Target::Scale})
        for (const double tolerance : {0.0, 0.01, 0.3}) {
            Channel channel = randomChannel(target, Curve::Linear, random, 400);
            for (std::size_t i = 4; i < channel.values.size();
                 ++i) // smooth, so that there is something to take
                channel.values[i] = 0.96f * channel.values[i - (target == Target::Rotation ? 4 : 3)] +
                                    0.04f * channel.values[i];
            double off = 0;
            const Channel thin = motion::thinned(channel, tolerance, &off);
            CHECK(off <= tolerance);
            double measured = 0;
            for (const float time : channel.times) {
                const auto is = motion::valueAt(thin, time), was = motion::valueAt(channel, time);
                measured =
                    std::max(measured, motion::distanceBetween(target, is.data(), was.data(), is.size()));
            }
            CHECK(measured <= tolerance + 1e-5);
            CHECK(measured == Approx(off).margin(1e-5));
            if (tolerance > 0.1) CHECK(thin.times.size() < channel.times.size());
        }
}

TEST_CASE("ten minutes of sixty bones are thinned in half a second") {
    std::mt19937 random(2);
    Clip clip{"long", {}};
    Model model = shapes::modelOf(shapes::sphere(6, 4), "ball");
    for (int bone = 0; bone < 60; ++bone) {
        model.nodes.push_back({fmt::format("bone {}", bone), bone});
        Channel turn{.node = bone + 1, .target = Target::Rotation};
        const double speed = 0.5 + 0.03 * bone;
        for (int k = 0; k < 18000; ++k) {
            const double angle = 0.4 * std::sin(speed * k / 30.0);
            turn.times.push_back(float(k) / 30);
            turn.values.insert(turn.values.end(), {float(std::sin(angle)), 0, 0, float(std::cos(angle))});
        }
        clip.channels.push_back(turn);
    }
    model.clips.push_back(std::make_shared<const Clip>(clip));
    nlohmann::json facts;
    const double seconds =
        quickestOfThree([&] { facts = ranStep(model, "clip-rate", nlohmann::json::object()).facts; });
    WARN("thinned 1 080 000 keys to " << facts["clips"][0]["after"] << " in " << seconds << " s");
    CHECK(facts["clips"][0]["before"] == 1080000);
    CHECK(facts["clips"][0]["after"] < 600000);
    CHECK(seconds < secondsAllowed(1.5)); // half a second on a machine that does nothing else
}

TEST_CASE("a clip is closed onto its beginning over its end alone") {
    std::mt19937 random(6);
    const Model model = walker(Curve::Linear, false, random);
    const auto before = motion::loopErrorOf(model, *model.clips[0]);
    CHECK(before.placed == 2);
    CHECK(before.place ==
          Approx(glm::length(motion::travelOf(model, *model.clips[0]).drift())).epsilon(1e-4));
    CHECK(before.turn > 0.05);
    for (const Curve curve : {Curve::Linear, Curve::CubicSpline, Curve::Step}) {
        const Model one = walker(curve, false, random);
        const Clip closed = motion::looped(*one.clips[0], 0.3);
        CHECK(motion::loopErrorOf(one, closed).isClosed());
        CHECK(motion::lengthOf(closed) == Approx(1.2));
        if (curve != Curve::Linear) continue;
        for (double t = 0; t < 0.9; t += 0.05)
            for (const std::size_t bone : {2u, 3u, 4u})
                CHECK(most(motion::posed(one, *one.clips[0], t).world[bone],
                           motion::posed(one, closed, t).world[bone]) < 1e-5);
    }
    const auto offered = ranStep(model, "loop-clips", nlohmann::json::object());
    CHECK(offered.facts["offers"][0]["params"]["travels"] == true);
    const auto travels = ranStep(model, "loop-clips", {{"travels", true}});
    CHECK_FALSE(travels.facts.contains("offers"));
    CHECK(motion::travelOf(travels.model, *travels.model.clips[0]).groundDrift() ==
          Approx(motion::travelOf(model, *model.clips[0]).groundDrift()));
    CHECK(motion::loopErrorOf(travels.model, *travels.model.clips[0]).turn < 1e-4);
    CHECK(ranStep(ranStep(model, "loop-clips", nlohmann::json::object()).model, "loop-clips",
                  nlohmann::json::object())
              .notes[0] == "walk closes already");
}

TEST_CASE("steps on clips say what they did, and what is not there") {
    std::mt19937 random(7);
    Model model = walker(Curve::Linear, false, random);
    model.clips.push_back(std::make_shared<const Clip>(Clip{"idle", {model.clips[0]->channels[1]}}));
    const auto trimmed = ranStep(model, "trim-clips", {{"of", {"wa*"}}, {"from", 0.2}, {"to", 0.8}});
    CHECK(trimmed.notes[0] == "walk: 1.2 s → 0.6 s");
    CHECK(motion::lengthOf(*trimmed.model.clips[0]) == Approx(0.6));
    CHECK(trimmed.model.clips[1] == model.clips[1]);
    CHECK(ranStep(model, "trim-clips", {{"from", 5.0}}).shortfall.find("stays as it is") !=
          std::string::npos);
    CHECK(ranStep(model, "trim-clips", {{"of", {"run"}}}).shortfall == "no clip is called run");
    CHECK(ranStep(shapes::box({0, 0, 0}, {1, 1, 1}), "loop-clips", nlohmann::json::object()).notes[0] ==
          "there are no clips");
    CHECK(ranStep(model, "stay-on-the-spot", {{"node", "nobody"}}).shortfall ==
          "there is no node \"nobody\"");
    for (const char* node : {"root", "pedestal/root"})
        CHECK(ranStep(model, "stay-on-the-spot", {{"node", node}, {"of", {"walk"}}})
                  .facts["clips"][0]["node"] == "root");
    const auto stays = ranStep(model, "stay-on-the-spot", {{"of", {"walk"}}});
    CHECK(stays.notes[0].starts_with("took "));
    CHECK(stays.notes[0].find("out of walk") != std::string::npos);
    CHECK(ranStep(model, "stay-on-the-spot", {{"of", {"idle"}}}).notes[0] ==
          "nothing moves as a whole in idle");
    const auto renamed = ranStep(model, "rename-clips", {{"find", "*l*"}, {"become", "clip"}});
    CHECK(renamed.notes[0] == "walk → clip; idle → clip-2");
    const auto rate = ranStep(model, "clip-rate", {{"rate", 5.0}, {"thin", false}});
    CHECK(rate.model.clips[0]->channels[0].times.size() == 7); // 1.2 s, five a second
    CHECK(motion::lengthOf(*rate.model.clips[0]) == Approx(1.2));
    CHECK(brokenPromise(rate.model) == "");
    // Morph weights go through all of it.
    for (const char* step : {"trim-clips", "loop-clips", "clip-rate", "stay-on-the-spot", "rename-clips"})
        CHECK(brokenPromise(ranStep(richModel(), step, nlohmann::json::object()).model) == "");
}

TEST_CASE("rules about clips say which, by how much and where") {
    std::mt19937 random(9);
    const Model model = walker(Curve::Linear, false, random);
    using platform::State;
    CHECK(ruleResult(model, "id = \"clips-present\"\nnames = \"walk\"").state == State::Fits);
    const auto present = ruleResult(model, "id = \"clips-present\"\nnames = \"idle, w*, heave\"");
    CHECK(present.state == State::Broken);
    CHECK(present.finding.measured == "2 missing");
    const auto spot = ruleResult(model, "id = \"stays-on-spot\"\nwithin = 0.01");
    CHECK(spot.state == State::Broken);
    CHECK(spot.finding.value == Approx(10 * motion::travelOf(model, *model.clips[0]).groundDrift())); // in dm
    CHECK(spot.finding.note.starts_with("\"walk\" drifts "));
    CHECK(ruleResult(model, "id = \"stays-on-spot\"\nwithin = 0.01\nclips = \"idle\"").finding.measured ==
          "no clips");
    const auto loops = ruleResult(model, "id = \"loops\"\ndegrees = 1");
    CHECK(loops.state == State::Broken);
    CHECK(loops.finding.value == Approx(glm::degrees(motion::loopErrorOf(model, *model.clips[0]).turn)));
    CHECK(ruleResult(model, "id = \"loops\"\ndegrees = 360").state == State::Fits);
    CHECK(ruleResult(model, "id = \"loops\"\ndegrees = 360\nwithin = 0.1").state == State::Broken);
    CHECK(ruleResult(model, "id = \"keys\"\nmost = 23").state != State::Broken); // 13 and twice 5
    CHECK(ruleResult(model, "id = \"keys\"\nmost = 22").state == State::Broken);
    CHECK(ruleResult(model, "id = \"weights-a-corner\"\nmost = 3").state == State::Fits);
    const auto weights = ruleResult(model, "id = \"weights-a-corner\"\nmost = 2");
    CHECK(weights.state == State::Broken);
    CHECK(weights.finding.faces.size() == model.meshes[0]->triangleCount());
    Model started = model;
    started.headingKnown = true;
    const auto plan = planner::plan(
        started, sheetWith("id = \"stays-on-spot\"\nwithin = 0.01\nmend = [\"stay-on-the-spot\"]"));
    CHECK(plan.holds);
    REQUIRE(plan.steps.size() == 1);
    CHECK(plan.steps[0].entry.step == "stay-on-the-spot");
}

TEST_CASE("a movement that is sampled anew says how many keys it has then") {
    std::mt19937 random(4);
    const Model turning = walker(Curve::Linear, true, random), still = walker(Curve::Linear, false, random);
    const auto keys = [](const Model& m) { return std::to_string(motion::keysOf(*m.clips[0])); };
    const auto ran = ranStep(turning, "stay-on-the-spot", nlohmann::json::object());
    CHECK(keys(ran.model) != keys(turning));
    CHECK(ran.notes[0].find("; " + keys(turning) + " → " + keys(ran.model) + " keys") != std::string::npos);
    CHECK(ranStep(still, "stay-on-the-spot", nlohmann::json::object()).notes[0].find("keys") ==
          std::string::npos);
}

TEST_CASE("the way that was taken out of a clip is kept with it for the game") {
    std::mt19937 random(11);
    const Model model = walker(Curve::Linear, false, random);
    const glm::dvec3 went = motion::travelOf(model, *model.clips[0]).drift();
    const glm::dvec3 along(went.x, 0, went.z);
    const auto inWorld = [](const Model& of) { return glm::dmat3(of.placement) * of.clips[0]->way; };
    const auto near = [](const glm::dvec3& a, const glm::dvec3& b) { return glm::distance(a, b) < 1e-6; };
    CHECK(glm::length(along) > 1);
    const Model stays = ranStep(model, "stay-on-the-spot", nlohmann::json::object()).model;
    CHECK(near(inWorld(stays), along));
    CHECK(ranStep(model, "stay-on-the-spot", {{"keep", false}}).model.clips[0]->way == glm::dvec3(0));
    // Twice takes nothing more, and what is there stays.
    CHECK(near(inWorld(ranStep(stays, "stay-on-the-spot", nlohmann::json::object()).model), along));
    // Half of it goes half as far; fewer keys go as far.
    CHECK(near(inWorld(ranStep(stays, "trim-clips", {{"from", 0.3}, {"to", 0.9}}).model), along / 2.0));
    CHECK(near(inWorld(ranStep(stays, "clip-rate", nlohmann::json::object()).model), along));
    CHECK(near(inWorld(ranStep(stays, "loop-clips", nlohmann::json::object()).model), along));
    // Where the whole is placed anew it goes along, baked or not.
    const Model baked = ranStep(stays, "bake-placement", nlohmann::json::object()).model;
    CHECK(baked.placement == glm::dmat4(1));
    CHECK(near(baked.clips[0]->way, along));
    Model turned = stays;
    turned.placement = glm::rotate(glm::dmat4(1), glm::half_pi<double>(), glm::dvec3(0, 1, 0)) *
                       glm::scale(glm::dmat4(1), glm::dvec3(2)) * turned.placement;
    CHECK(near(inWorld(turned), 2.0 * glm::dvec3(along.z, 0, -along.x)));

    // It is in the file, and comes back.
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::writeGlb(stays, {"walker"}, nullptr));
    const Model back = formats::readModel(folder / "walker.glb", {});
    CHECK(glm::distance(inWorld(back), along) < 1e-6);
    const std::string glb = formats::writeGlb(stays, {"walker"}, nullptr)[0].bytes;
    CHECK(glb.find("\"extras\":{\"way\":[") != std::string::npos);
    for (const char* bad : {"[1,2]", "[1,2,\"x\"]", "[1,2,1e300]", "{}", "7"}) {
        std::string json =
            R"({"asset":{"version":"2.0"},"nodes":[{}],"buffers":[{"byteLength":16,"uri":)"
            R"("data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAAAAAA=="}],"bufferViews":)"
            R"([{"buffer":0,"byteLength":16}],"accessors":[{"bufferView":0,"componentType":5126,)"
            R"("count":1,"type":"SCALAR","min":[0],"max":[0]},{"bufferView":0,"componentType":)"
            R"(5126,"count":1,"type":"VEC3"}],"animations":[{"samplers":[{"input":0,"output":1}],)"
            R"("channels":[{"sampler":0,"target":{"node":0,"path":"translation"}}],"extras":{"way":)";
        json += std::string(bad) + "}}]}";
        const Model read = formats::readModel(folder.write("bad.gltf", json), {});
        REQUIRE(read.clips.size() == 1);
        CHECK(read.clips[0]->way == glm::dvec3(0));
    }
}
