// Figures, how their bones turn and reach, and what they wear.
#include "core/base/error.h"
#include "core/figure/figure.h"
#include "core/formats/format.h"
#include "core/geometry/clipping.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/model/add_model.h"
#include "core/motion/attached.h"
#include "core/motion/bone_turns.h"
#include "core/motion/posed.h"
#include "support/companions.h"
#include "core/model/promises.h"
#include "support/finds.h"
#include "support/rich_model.h"
#include "support/shapes.h"

#include <glm/gtc/constants.hpp>

using namespace zl;
using glm::dvec3;

namespace {

constexpr double quarter = glm::half_pi<double>();

/// Three bones one metre long each, in a row along X from the origin, and a tip.
Model chain() {
    Model model = shapes::box({-0.1, -0.1, -0.1}, {0.1, 0.1, 0.1});
    Skin skin;
    for (int k = 0; k < 4; ++k) {
        skin.joints.push_back(int(model.nodes.size()));
        skin.inverseBind.emplace_back(glm::translate(glm::mat4(1.0f), {-float(k), 0.0f, 0.0f}));
        model.nodes.push_back({std::string("bone") + char('a' + k), k == 0 ? -1 : int(model.nodes.size()) - 1,
                               glm::translate(glm::dmat4(1.0), dvec3(k == 0 ? 0 : 1, 0, 0))});
    }
    model.skins.push_back(skin);
    return model;
}
dvec3 placeOf(const Model& model, const motion::BoneTurns& turns, int node) {
    return dvec3(motion::worldWith(model, turns)[std::size_t(node)][3]);
}

Model run(const Model& model, const char* step, const nlohmann::json& params, const TestSurroundings* around,
          std::vector<std::string>* notes = nullptr, std::string* shortfall = nullptr) {
    const Progress progress;
    steps::StepContext context{progress, nullptr, around};
    const auto made = steps::makeStep(step, params);
    Model out = made->apply(model, context);
    if (notes) *notes = context.notes;
    if (shortfall) *shortfall = context.shortfall;
    CHECK(brokenPromise(out) == "");
    return out;
}

} // namespace

TEST_CASE("Bones that turn take those below along, as worked out by hand") {
    const Model model = chain();
    // a by 90° about Z: the row stands upright. b by 90° about its own X, c by -90° about its own Z: b's X is
    // world Y, its Y then world Z's way; the last bone leads along world -Z... by hand:
    // a: x→(0,1,0), y→(-1,0,0), z→(0,0,1). b turns about its x: y→z of a = (0,0,1), z→-y = (1,0,0).
    // c turns by -90° about its z: x→-y = (0,0,-1).
    const motion::BoneTurns turns{{1, motion::turnOf(0, 0, quarter)},
                                  {2, motion::turnOf(quarter, 0, 0)},
                                  {3, motion::turnOf(0, 0, -quarter)}};
    CHECK(glm::distance(placeOf(model, turns, 2), dvec3(0, 1, 0)) < 1e-6);
    CHECK(glm::distance(placeOf(model, turns, 3), dvec3(0, 2, 0)) < 1e-6);
    CHECK(glm::distance(placeOf(model, turns, 4), dvec3(0, 2, -1)) < 1e-6);
    // X first, then Y, then Z.
    CHECK(glm::distance(motion::turnOf(quarter, quarter, 0) * dvec3(0, 1, 0), dvec3(1, 0, 0)) < 1e-12);
    // The clip says the same, through the reader of clips.
    const auto clip = motion::poseClip(model, turns, "bent");
    const auto pose = motion::posed(model, clip, 0);
    CHECK(glm::distance(dvec3(pose.world[4][3]), dvec3(0, 2, -1)) < 1e-6);
}

TEST_CASE("A hand reaches its place to the millimetre, on the pole's side, or says how far it falls short") {
    const Model model = chain();
    for (const dvec3 target :
         {dvec3(2, 0, 0), dvec3(1, 1, 0.3), dvec3(-0.5, 0.2, 1), dvec3(1, 0, 0.001), dvec3(1, -1.7, 0.4)}) {
        INFO(target.x << ", " << target.y << ", " << target.z);
        // The end is bone d (node 4), two bones above it are b and c: from (1, 0, 0), two metres far.
        for (const dvec3 pole : {dvec3(1, 5, 0), dvec3(0, -3, 4)}) {
            const auto done = motion::reached(model, {}, 4, target, pole);
            CHECK(done.shortBy < 0.001);
            CHECK(glm::distance(placeOf(model, done.turns, 4), target) < 0.001);
            const dvec3 elbow = placeOf(model, done.turns, 3);
            CHECK(glm::distance(elbow, dvec3(1, 0, 0)) == Approx(1));
            const dvec3 way = glm::normalize(target - dvec3(1, 0, 0) + dvec3(1e-12));
            dvec3 side = pole - dvec3(1, 0, 0);
            side -= way * glm::dot(side, way);
            if (glm::distance(target, dvec3(1, 0, 0)) < 1.9)
                CHECK(glm::dot(elbow - dvec3(1, 0, 0), side) > 0);
        }
    }
    const auto far = motion::reached(model, {}, 4, dvec3(1, 5, 0));
    CHECK(far.shortBy == Approx(3)); // two metres long, five wanted
    CHECK(glm::distance(placeOf(model, far.turns, 4), dvec3(1, 2, 0)) < 1e-6);
    CHECK_NOTHROW(motion::reached(model, {}, 4, dvec3(1, 0, 0))); // onto the joint itself
    CHECK_NOTHROW(motion::reached(model, {}, 4, dvec3(NAN, 0, 0)));
    CHECK_THROWS_AS(motion::reached(model, {}, 2, dvec3(0)), Error);
}

TEST_CASE("Names of the other side are found in several manners") {
    for (const auto& [one, other] : {std::pair<const char*, const char*>{"hand.left", "hand.right"},
                                     {"LeftArm", "RightArm"},
                                     {"foot_L", "foot_R"},
                                     {"toe.r", "toe.l"},
                                     {"spine", "spine"},
                                     {"tail", "tail"}}) {
        CHECK(motion::otherSide(one) == other);
        CHECK(motion::otherSide(other) == one);
    }
}

TEST_CASE("Figures stand on the floor as tall as they say, closed, with 24 bones in four stages and builds") {
    for (const figure::Kind& kind : figure::allKinds()) {
        INFO(kind.id);
        const Model model = figure::figureOf(kind);
        CHECK(brokenPromise(model) == "");
        CHECK(model.skins[0].joints.size() == 24);
        CHECK(triangleCount(model) > 4000);
        CHECK(triangleCount(model) < 6000);
        const auto bounds = geometry::worldBounds(model);
        CHECK(bounds.min.y == Approx(0).margin(1e-6));
        CHECK(bounds.max.y == Approx(kind.height).epsilon(0.02));
        CHECK(geometry::topologyOf(*model.meshes[0]).watertight);
        // At rest the skin is where the mesh is.
        Mesh flat = geometry::flattened(model);
        const Mesh before = flat;
        motion::poseFlattened(model, motion::posed(model, Clip{}, 0), flat);
        for (std::size_t v = 0; v < flat.positions.size(); v += 97)
            CHECK(glm::distance(flat.positions[v], before.positions[v]) < 1e-4f);
        // Written and read by others' rules.
        const TemporaryFolder folder;
        writeAllOrNone(folder.path(), formats::writeGlb(model, {"figure"}, nullptr));
        CHECK(formats::readModel(folder / "figure.glb").skins.at(0).joints.size() == 24);
    }
    CHECK_THROWS_AS(figure::kindNamed("giant"), Error);
    // Broader and smaller ones really are.
    const auto size = [](const char* id) {
        return geometry::worldBounds(figure::figureOf(figure::kindNamed(id))).size();
    };
    CHECK(size("grown-b").x > size("grown-a").x);
    CHECK(size("kid").y < 1.3);
}

TEST_CASE("The pose step adds a clip, mirrors it, and says what it cannot do") {
    const Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    const nlohmann::json params{
        {"called", "wave"},
        {"turns", {{{"bone", "head"}, {"x", 10}, {"y", 30}, {"z", 0}}}},
        {"reaches", {{{"end", "hand.left"}, {"to", {0.5, 1.6, 0.2}}, {"bend", {0, -1, 0}}}}}};
    std::vector<std::string> notes;
    const Model posed = run(figure, "pose", params, nullptr, &notes);
    REQUIRE(posed.clips.size() == 1);
    CHECK(posed.clips[0]->name == "wave");
    CHECK(notes.back() == "\"wave\" turns 3 bones");
    const int left = motion::jointNamed(posed, "hand.left"), right = motion::jointNamed(posed, "hand.right");
    const auto at = [](const Model& m, int node) {
        return dvec3(motion::posed(m, *m.clips[0], 0).world[std::size_t(node)][3]);
    };
    CHECK(glm::distance(at(posed, left), dvec3(0.5, 1.6, 0.2)) < 0.001);
    nlohmann::json mirrored = params;
    mirrored["mirrored"] = true;
    const Model other = run(posed, "pose", mirrored, nullptr);
    CHECK(other.clips.size() == 1); // of the same name: replaced
    CHECK(glm::distance(at(other, right), dvec3(-0.5, 1.6, 0.2)) < 0.001);
    std::string shortfall;
    run(figure, "pose", {{"turns", {{{"bone", "wing"}, {"x", 0}, {"y", 0}, {"z", 0}}}}}, nullptr, nullptr,
        &shortfall);
    CHECK(shortfall == "there is no bone \"wing\"");
    run(figure, "pose", {{"reaches", {{{"end", "hand.left"}, {"to", {9, 1, 0}}, {"bend", {0, 0, -1}}}}}},
        nullptr, nullptr, &shortfall);
    CHECK(shortfall.find("\"hand.left\" stays ") == 0);
    run(shapes::box({0, 0, 0}, {1, 1, 1}), "pose", params, nullptr, nullptr, &shortfall);
    CHECK(shortfall == "there are no bones to pose");
}

TEST_CASE("Worn pieces follow their bone, and two at one place are said") {
    const Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    TestSurroundings around;
    around.add("Lamp", shapes::box({-0.05, -0.2, -0.05}, {0.05, -0.1, 0.05}), 1);
    around.add("Bag", shapes::box({-0.1, -0.1, -0.1}, {0.1, 0.1, 0.1}), 2);
    const auto row = [](const char* piece, const char* bone, const char* place, bool shown) {
        return nlohmann::json{{"item", {{"piece", piece}}}, {"bone", bone}, {"place", place},
                              {"offset", {0, 0, 0.1}},      {"turn", 0},    {"shown", shown}};
    };
    std::vector<std::string> notes;
    std::string shortfall;
    const Model dressed =
        run(figure, "wear",
            {{"items",
              {row("Lamp", "hand.right", "hand, right", true), row("Bag", "chest", "shoulder, left", true)}}},
            &around, &notes, &shortfall);
    CHECK(shortfall.empty());
    CHECK(objectCount(dressed) == 3);
    const dvec3 hand(worldMatrices(figure)[std::size_t(motion::jointNamed(figure, "hand.right"))][3]);
    std::vector<int> nodes;
    const Mesh flat = geometry::flattened(dressed, &nodes);
    geometry::Bounds lamp;
    for (const auto& body : geometry::bodiesOf(dressed, flat, nodes))
        if (body.name() == "Lamp/box") lamp.add(dvec3(body.low())), lamp.add(dvec3(body.high()));
    CHECK(glm::distance(lamp.centre(), hand + dvec3(0, -0.15, 0.1)) < 1e-5);
    run(figure, "wear",
        {{"items",
          {row("Lamp", "chest", "shoulder, left", true), row("Bag", "chest", "shoulder, left", true)}}},
        &around, nullptr, &shortfall);
    CHECK(shortfall == "Lamp and Bag both claim the place \"shoulder, left\"; show one of them");
    const Model one =
        run(figure, "wear",
            {{"items",
              {row("Lamp", "chest", "shoulder, left", false), row("Bag", "chest", "shoulder, left", true)}}},
            &around, nullptr, &shortfall);
    CHECK(shortfall.empty());
    CHECK(objectCount(one) == 2);
    CHECK_THROWS_AS(run(figure, "wear", {{"items", {row("Lamp", "wing", "", true)}}}, &around), Error);
}

TEST_CASE("Pieces are set down beside and never inside") {
    TestSurroundings around;
    around.add("Crate", shapes::box({-0.5, 0.2, -0.5}, {0.5, 1.2, 0.5}), 1);
    const Model post = shapes::box({-0.1, 0, -0.1}, {0.1, 2, 0.1});
    const auto row = [](bool placed, dvec3 at) {
        return nlohmann::json{
            {"item", {{"piece", "Crate"}}}, {"placed", placed}, {"at", {at.x, at.y, at.z}}, {"turn", 90}};
    };
    std::vector<std::string> notes;
    const Model set =
        run(post, "set-beside",
            {{"items",
              {row(false, dvec3(0)), row(false, dvec3(0)), row(true, dvec3(0)), row(true, dvec3(0, 0, -3))}}},
            &around, &notes);
    CHECK(objectCount(set) == 5);
    REQUIRE(notes.size() == 1); // the third would have stood in the post
    CHECK(notes[0].find("Crate was moved ") == 0);
    std::vector<int> nodes;
    const Mesh flat = geometry::flattened(set, &nodes);
    const auto bodies = geometry::bodiesOf(set, flat, nodes);
    CHECK(geometry::overlapsAmong(bodies).empty());
    CHECK(bodies[1].low().x == Approx(0.2)); // a hand's breadth beside
    CHECK(bodies[1].low().y == Approx(0));   // on the floor
    CHECK(bodies[4].low().z == Approx(-3.5));
}

TEST_CASE("A piece beside one so huge that no gap can be told from it is set down all the same") {
    TestSurroundings around;
    around.add("World", shapes::box({-7.6284296507537e26, 0, -1}, {1, 1, 1}), 1);
    const nlohmann::json rows{{{"item", {{"piece", "World"}}}}};
    std::string shortfall;
    const Model set = run(shapes::box({0, 0, -1}, {20749139968.0, 1, 1}), "set-beside", {{"items", rows}},
                          &around, nullptr, &shortfall);
    CHECK(objectCount(set) == 2);
    CHECK(shortfall.find("no room was found beside") != std::string::npos);
}

TEST_CASE("A turn comes apart into the angles that it was made of, and is held to its limits") {
    for (const dvec3 degrees : {dvec3(10, 20, 30), dvec3(-120, 5, 0), dvec3(0, 0, 170), dvec3(45, -80, 20)}) {
        const dvec3 angles = glm::radians(degrees);
        const dvec3 back = glm::degrees(motion::anglesOf(motion::turnOf(angles.x, angles.y, angles.z)));
        INFO(degrees.x << " " << degrees.y << " " << degrees.z);
        CHECK(glm::distance(back, degrees) < 1e-9);
    }
    const TurnLimits limits{glm::radians(dvec3(-10, 0, 0)), glm::radians(dvec3(40, 0, 0))};
    const auto heldTo = [&](dvec3 degrees) {
        const dvec3 angles = glm::radians(degrees);
        return glm::degrees(
            motion::anglesOf(motion::held(motion::turnOf(angles.x, angles.y, angles.z), limits)));
    };
    CHECK(glm::distance(heldTo({30, 0, 0}), dvec3(30, 0, 0)) < 1e-9);
    CHECK(glm::distance(heldTo({70, 20, -5}), dvec3(40, 0, 0)) < 1e-9);
    CHECK(glm::distance(heldTo({-70, 0, 0}), dvec3(-10, 0, 0)) < 1e-9);
}

TEST_CASE("A bone is aimed by its end, the shortest way and no farther than it goes") {
    Model chain;
    chain.nodes = {{"root", -1},
                   {"arm", 0, glm::translate(glm::dmat4(1.0), dvec3(0, 1, 0))},
                   {"hand", 1, glm::translate(glm::dmat4(1.0), dvec3(0.5, 0, 0))}};
    chain.skins = {{"bones", {0, 1, 2}, std::vector<glm::mat4>(3, glm::mat4(1)), 0}};
    CHECK(motion::endOf(chain, 1) == dvec3(0.5, 0, 0));
    CHECK(glm::distance(motion::endOf(chain, 2), dvec3(0.3, 0, 0)) < 1e-12); // goes on as the one above
    const auto hand = [&](const motion::BoneTurns& turns) {
        return dvec3(motion::worldWith(chain, turns)[2][3]);
    };
    const auto up = motion::aimed(chain, {}, 1, motion::endOf(chain, 1), {0, 7, 0});
    CHECK(glm::distance(hand(up), dvec3(0, 1.5, 0)) < 1e-12); // by a quarter about Z
    CHECK(glm::distance(glm::degrees(motion::anglesOf(up.at(1))), dvec3(0, 0, 90)) < 1e-9);
    const auto ahead = motion::aimed(chain, up, 1, motion::endOf(chain, 1), {0, 1, 3});
    CHECK(glm::distance(hand(ahead), dvec3(0, 1, 0.5)) < 1e-12);
    chain.nodes[1].turns = TurnLimits{glm::radians(dvec3(-180, -90, 0)), glm::radians(dvec3(180, 90, 30))};
    const auto held = motion::aimed(chain, {}, 1, motion::endOf(chain, 1), {0, 7, 0});
    CHECK(glm::distance(hand(held), dvec3(0.5 * std::cos(M_PI / 6), 1.25, 0)) < 1e-12);
    // Aimed at its own joint it stays.
    CHECK(glm::distance(hand(motion::aimed(chain, {}, 1, {0.5, 0, 0}, {0, 1, 0})), dvec3(0.5, 1, 0)) < 1e-9);
}

TEST_CASE("A rig's limits go through GLB, and turns by number stop at them") {
    TemporaryFolder folder;
    const Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    writeAllOrNone(folder.path(), formats::writeGlb(figure, {"figure"}, nullptr));
    const Model back = formats::readModel(folder / "figure.glb");
    const int shin = motion::jointNamed(back, "shin.left");
    REQUIRE(back.nodes[std::size_t(shin)].turns);
    CHECK(glm::degrees(back.nodes[std::size_t(shin)].turns->most.x) == Approx(150));
    CHECK(glm::degrees(back.nodes[std::size_t(motion::jointNamed(back, "upperarm.right"))].turns->least.z) ==
          Approx(-170));
    CHECK_FALSE(back.nodes[std::size_t(motion::jointNamed(back, "root"))].turns);
    std::string shortfall;
    const Model bent =
        run(back, "pose", {{"turns", {{{"bone", "shin.left"}, {"x", -40}, {"y", 0}, {"z", 0}}}}}, nullptr,
            nullptr, &shortfall);
    CHECK(shortfall == "\"shin.left\" does not turn so far and stays at its limit");
    const float sine = bent.clips[0]->channels[0].values[0];
    CHECK(sine == Approx(std::sin(glm::radians(-5.0) / 2)).margin(1e-6)); // a knee does not bend forward
    // What makes no sense is no limit.
    std::string bytes = formats::writeGlb(figure, {"figure"}, nullptr)[0].bytes;
    for (std::size_t at = bytes.find("\"least\""); at != std::string::npos; at = bytes.find("\"least\"", at))
        bytes.replace(at, 7, "\"lEast\"");
    writeFile(folder / "odd.glb", bytes);
    CHECK_FALSE(formats::readModel(folder / "odd.glb").nodes[std::size_t(shin)].turns);
}

TEST_CASE("Where two worn pieces claim one place, hiding either is offered") {
    const Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    TestSurroundings around;
    around.add("Lamp", shapes::box({0, 0, 0}, {0.1, 0.1, 0.1}), 1);
    around.add("Bag", shapes::box({0, 0, 0}, {0.1, 0.1, 0.1}), 2);
    auto rows = nlohmann::json::array();
    for (const char* piece : {"Lamp", "Bag"})
        rows.push_back(
            {{"item", {{"piece", piece}}}, {"bone", "chest"}, {"place", "shoulder"}, {"shown", true}});
    auto step = steps::makeStep("wear", {{"items", rows}});
    steps::StepContext context{{}, nullptr, &around};
    step->apply(figure, context);
    REQUIRE(context.facts["offers"].size() == 2);
    CHECK(context.facts["offers"][1]["words"] == "Hide Bag");
    step->setParams(context.facts["offers"][1]["params"]);
    steps::StepContext again{{}, nullptr, &around};
    CHECK(objectCount(step->apply(figure, again)) == 2);
    CHECK_FALSE(again.facts.contains("offers"));
    CHECK(step->params()["items"][0]["shown"] == true);
}

TEST_CASE("what hangs on a bone of no size stays off, and that is said") {
    Model figure = richModel();
    figure.nodes[1].local = glm::scale(glm::dmat4(1.0), dvec3(0));
    TestSurroundings around;
    around.add("hat", shapes::box({0, 0, 0}, {1, 1, 1}), 1);
    const auto wear =
        steps::makeStep("wear", {{"items", {{{"item", {{"piece", "hat"}}}, {"bone", "yoke"}}}}});
    const Progress progress;
    steps::StepContext on{progress, nullptr, &around};
    const Model out = wear->apply(figure, on);
    CHECK(brokenPromise(out).empty());
    CHECK(out.nodes.size() == figure.nodes.size());
    CHECK(on.shortfall.find("scale of zero") != std::string::npos);
}
