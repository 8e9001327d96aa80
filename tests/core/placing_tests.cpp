// Heading, baking, parts, names, yardsticks: where a piece lands and what it is made of.
#include "core/base/pattern.h"
#include "core/geometry/bake.h"
#include "core/geometry/clean.h"
#include "core/geometry/heading.h"
#include "core/geometry/normals.h"
#include "core/geometry/parts.h"
#include "core/model/axes.h"
#include "core/planner/planner.h"
#include "core/platform/check.h"
#include "core/recipe/recipe.h"
#include "support/ran_step.h"
#include "support/companions.h"
#include "support/sheets.h"
#include "support/random_tree.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

Model ran(const char* id, const nlohmann::json& params, const Model& in,
          std::vector<std::string>* notes = nullptr, const platform::Sheet* sheet = nullptr,
          const steps::Surroundings* around = nullptr) {
    auto step = steps::makeStep(id);
    if (!params.is_null()) step->setParams(params);
    const Progress progress;
    steps::StepContext context{progress, sheet, around};
    Model out = step->apply(in, context);
    if (notes) *notes = context.notes;
    return out;
}

/// Two boxes in one mesh, and a wrapper above: `crate > lid`.
Model nested() {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.nodes[0] = {"crate", -1, glm::translate(glm::dmat4(1.0), {0.0, 0.0, 2.0})};
    model.nodes.push_back(
        {"lid", 0, glm::scale(glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0}), {1.0, 0.2, 1.0}), 0});
    model.nodes.push_back({"empty", 0, glm::dmat4(1.0)});
    model.materials = {{.name = "pine"}, {.name = "tin"}};
    return model;
}

} // namespace

TEST_CASE("axes: the world turned into any platform's keeps lengths and hands") {
    const auto [up, front] = GENERATE(table<Up, const char*>(
        {{Up::Y, "+Z"}, {Up::Y, "+X"}, {Up::Y, "-Z"}, {Up::Z, "+X"}, {Up::Z, "+Y"}, {Up::Z, "-Y"}}));
    const glm::dmat4 m = worldToAxes(up, front);
    CHECK(glm::determinant(glm::dmat3(m)) == Approx(1));
    CHECK(glm::dvec3(m * glm::dvec4(0, 0, 1, 0)) == axisNamed(front));
    CHECK(glm::dvec3(m * glm::dvec4(0, 1, 0, 0)) ==
          (up == Up::Y ? glm::dvec3(0, 1, 0) : glm::dvec3(0, 0, 1)));
}

TEST_CASE("baking a random tree of 200 nodes leaves the world as it was") {
    const unsigned seed = GENERATE(1u, 2u, 3u);
    Model tree = shapes::randomTree(200, seed);
    tree.placement = glm::rotate(glm::scale(glm::dmat4(1.0), glm::dvec3(0.3)), 0.4, {0, 1, 0});
    const auto result = geometry::baked(tree);
    CHECK(result.moving.empty());
    for (const Node& node : result.model.nodes) CHECK_FALSE(geometry::carriesTransform(node.local, 0));
    CHECK(result.model.placement == glm::dmat4(1.0));
    const Mesh before = geometry::flattened(tree), after = geometry::flattened(result.model);
    const double size = glm::length(geometry::meshBounds(before).size());
    REQUIRE(before.positions.size() == after.positions.size());
    double farthest = 0, flattest = 1;
    for (std::size_t i = 0; i < before.positions.size(); ++i) {
        farthest = std::max(farthest, double(glm::distance(before.positions[i], after.positions[i])));
        flattest = std::min(flattest, double(glm::dot(before.normals[i], after.normals[i])));
    }
    CHECK(farthest <= 1e-5 * size);
    CHECK(flattest >= std::cos(glm::radians(0.1)));
    // No face flips: each still faces the way its normals do, as often as before.
    REQUIRE(before.indices.size() == after.indices.size());
    int flipped = 0;
    for (std::size_t t = 0; t < before.triangleCount(); ++t)
        flipped += glm::dot(geometry::faceNormal(before, t), geometry::faceNormal(after, t)) <= 0;
    CHECK(flipped == 0);
    CHECK(geometry::signedVolume(after) > 0);
}

TEST_CASE("baking keeps clips and skins right") {
    Model model = shapes::randomTree(40, 9, true);
    // A bone below three baked nodes, animated by turning, moving and scaling.
    const int bone = 39;
    Clip clip{"sway", {}};
    clip.channels.push_back(
        {bone, Channel::Target::Rotation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 1, 0, 0.6f, 0, 0.8f}});
    clip.channels.push_back(
        {bone, Channel::Target::Translation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 1, 2, 3}});
    clip.channels.push_back(
        {bone, Channel::Target::Scale, Channel::Curve::Linear, {0, 1}, {1, 1, 1, 2, 2, 2}});
    model.clips = {std::make_shared<const Clip>(clip)};
    Mesh skin = *model.meshes[0];
    skin.joints.assign(skin.vertexCount(), glm::u16vec4(0));
    skin.weights.assign(skin.vertexCount(), glm::vec4(1, 0, 0, 0));
    model.meshes.push_back(std::make_shared<const Mesh>(skin));
    model.skins.push_back(
        {"rig", {bone}, {glm::mat4(glm::translate(glm::dmat4(1.0), {0.1, 0.2, 0.3}))}, bone});
    model.nodes.push_back(
        {"skinned", 3, glm::translate(glm::dmat4(1.0), {5.0, 0.0, 0.0}), int(model.meshes.size()) - 1, 0});

    const auto result = geometry::baked(model);
    /// World matrix of the bone with the clip's keys of one end put in.
    const auto posed = [&](const Model& m, int key) {
        Model at = m;
        const Clip& c = *m.clips[0];
        const auto* r = &c.channels[0].values[std::size_t(key) * 4];
        const auto* t = &c.channels[1].values[std::size_t(key) * 3];
        const auto* s = &c.channels[2].values[std::size_t(key) * 3];
        at.nodes[bone].local = glm::scale(glm::translate(glm::dmat4(1.0), {t[0], t[1], t[2]}) *
                                              glm::mat4_cast(glm::dquat(r[3], r[0], r[1], r[2])),
                                          {s[0], s[1], s[2]});
        return worldMatrices(at)[bone];
    };
    for (const int key : {0, 1}) {
        const glm::dmat4 before = posed(model, key), after = posed(result.model, key);
        for (int i = 0; i < 16; ++i) CHECK(after[i / 4][i % 4] == Approx(before[i / 4][i % 4]).margin(1e-5));
        // A skinned corner: bone · bind · corner.
        const int was = model.nodes.back().mesh, is = result.model.nodes.back().mesh;
        const glm::dvec4 a = before * glm::dmat4(model.skins[0].inverseBind[0]) *
                             glm::dvec4(model.meshes[was]->positions[7], 1);
        const glm::dvec4 b = after * glm::dmat4(result.model.skins[0].inverseBind[0]) *
                             glm::dvec4(result.model.meshes[is]->positions[7], 1);
        CHECK(glm::distance(a, b) < 1e-5);
    }
    CHECK(result.moving == std::vector<std::string>{"node-39"});
}

TEST_CASE("baking chosen parts leaves the others where they are, and hostile scales do no harm") {
    Model tree = shapes::randomTree(30, 5);
    std::vector<std::string> notes;
    const Model some = ran("bake-placement", {{"parts", "node-3, node-1*"}}, tree, &notes);
    const Mesh before = geometry::flattened(tree), after = geometry::flattened(some);
    double farthest = 0;
    for (std::size_t i = 0; i < before.positions.size(); ++i)
        farthest = std::max(farthest, double(glm::distance(before.positions[i], after.positions[i])));
    CHECK(farthest < 1e-5 * glm::length(geometry::meshBounds(before).size()));
    CHECK(geometry::carriesTransform(some.nodes[2].local));
    CHECK_FALSE(geometry::carriesTransform(some.nodes[3].local));

    Model flat = shapes::box({0, 0, 0}, {1, 1, 1});
    flat.nodes[0].local = glm::scale(glm::dmat4(1.0), {1.0, 0.0, 1.0}); // no inverse
    const Model squashed = geometry::baked(flat).model;
    for (const glm::vec3& p : squashed.meshes[0]->positions) CHECK(std::isfinite(p.x + p.y + p.z));
    CHECK(geometry::worldBounds(squashed).size().y == Approx(0).margin(1e-9));
    flat.nodes[0].local[0][0] = NAN;
    CHECK(geometry::carriesTransform(flat.nodes[0].local));
    CHECK_NOTHROW(geometry::baked(flat));
}

TEST_CASE("a deep tree of 10 000 nodes is baked and cleared of wrappers") {
    Model deep = shapes::box({0, 0, 0}, {1, 1, 1});
    deep.nodes.clear();
    for (int i = 0; i < 10000; ++i)
        deep.nodes.push_back({"n" + std::to_string(i), i - 1,
                              glm::translate(glm::dmat4(1.0), {0.001, 0.0, 0.0}), i == 9999 ? 0 : -1});
    std::vector<int> removed;
    const Model flat = geometry::withoutWrappers(deep, &removed);
    CHECK(removed.size() == 9999);
    REQUIRE(flat.nodes.size() == 1);
    CHECK(geometry::worldBounds(flat).min.x == Approx(10));
    CHECK(geometry::worldBounds(geometry::baked(deep).model).min.x == Approx(10));
}

TEST_CASE("wrappers and empty nodes go, what is below stays in place") {
    const Model model = nested();
    const auto before = geometry::worldBounds(model);
    const Model out = ran("remove-wrappers", nullptr, model);
    REQUIRE(out.nodes.size() == 1);
    CHECK(out.nodes[0].name == "lid");
    CHECK(out.nodes[0].parent == -1);
    CHECK(glm::length(geometry::worldBounds(out).centre() - before.centre()) < 1e-9);
}

TEST_CASE("objects are split by loose part and by material, and joined again") {
    Mesh two = geometry::boxMesh({0, 0, 0}, {1, 1, 1});
    const Mesh other = geometry::boxMesh({3, 0, 0}, {4, 2, 1});
    const auto shift = std::uint32_t(two.positions.size());
    two.positions.insert(two.positions.end(), other.positions.begin(), other.positions.end());
    for (const auto i : other.indices) two.indices.push_back(i + shift);
    two.runs = {{0, 18, 0}, {18, 6, 1}}; // the border between materials runs through the second box
    Model model = shapes::modelOf(two, "pair");
    model.materials = {{.name = "pine"}, {.name = "tin"}};
    const Model loose = ran("split-parts", {{"by", "loose"}}, model);
    REQUIRE(objectCount(loose) == 2);
    CHECK(loose.nodes[0].name == "pair-1");
    CHECK(loose.meshes[loose.nodes[1].mesh]->triangleCount() == 12);
    CHECK(loose.meshes[loose.nodes[1].mesh]->runs.size() == 2);
    const Model worn = ran("split-parts", {{"by", "material"}}, model);
    REQUIRE(objectCount(worn) == 2);
    CHECK(worn.nodes[0].name == "pair-pine");
    CHECK(worn.nodes[1].name == "pair-tin");
    CHECK(worn.meshes[worn.nodes[1].mesh]->triangleCount() == 6);
    for (const Model* split : {&loose, &worn}) {
        const Model joined = ran("join-parts", {{"name", "whole"}}, *split);
        REQUIRE(objectCount(joined) == 1);
        CHECK(joined.nodes[0].name == "whole");
        CHECK(triangleCount(joined) == 24);
        CHECK(glm::length(geometry::worldBounds(joined).size() - geometry::worldBounds(model).size()) < 1e-6);
        CHECK(joined.meshes[joined.nodes[0].mesh]->runs.size() == 2);
    }
    // Taken out of a group by name, in place.
    const Model out = ran("split-parts", {{"by", "name"}, {"parts", "l*"}}, nested());
    CHECK(out.nodes[1].parent == -1);
    CHECK(glm::length(geometry::worldBounds(out).centre() - geometry::worldBounds(nested()).centre()) < 1e-9);
}

TEST_CASE("names are renamed by pattern, made legal, and kept apart") {
    CHECK(matchPattern("wheel.*.*", "wheel.front.left") == std::vector<std::string>{"front", "left"});
    CHECK(matchPattern("*a*b", "xxaab") == std::vector<std::string>{"xx", "a"});
    CHECK_FALSE(matchPattern("a?", "a"));
    CHECK(NamePatterns(patternsFrom(" a*, b ")).match("b"));
    CHECK_FALSE(NamePatterns({"a*"}).match("b"));
    CHECK(filledTemplate("{2}-{1}-{n}-{x}", {"one", "two"}, "old", 3) == "two-one-3-{x}");

    Model model = nested();
    model.nodes[0].name = "Crate No. 1";
    model.nodes[1].name = "crate no 1";
    model.nodes[2].name = std::string(80, 'x') + "🍋";
    std::vector<std::string> notes;
    const Model legal = ran("rename-parts", nullptr, model, &notes);
    CHECK(legal.nodes[0].name == "crate_no_1");
    CHECK(legal.nodes[1].name == "crate_no_1_2");
    CHECK(legal.nodes[2].name.size() == 31);
    CHECK(legal.materials[0].name == "pine");
    Model twice = model; // and no longer than the platform takes, with a number, too
    twice.nodes[1].name = twice.nodes[2].name;
    const Model harbour =
        ranStep(twice, "rename-parts", nlohmann::json::object(), sheet("portcalder").get()).model;
    CHECK(harbour.nodes[1].name == std::string(23, 'x'));
    CHECK(harbour.nodes[2].name == std::string(21, 'x') + "_2");
    REQUIRE(notes.size() == 4);
    CHECK(notes[1] == "Crate No. 1 → crate_no_1"); // the preview
    const Model shaped = ran(
        "rename-parts",
        {{"what", "objects"}, {"find", "crate no *"}, {"become", "box {1}/{n}"}, {"legal", false}}, model);
    CHECK(shaped.nodes[1].name == "box 1/1");
    CHECK(shaped.nodes[0].name == "Crate No. 1");
}

TEST_CASE("rules tell names, doubles, transforms, wrappers and an unknown front") {
    const auto truck = sheet("mudhaul");
    Model model = nested();
    auto report = platform::check(model, *truck);
    CHECK(report.rule("no-transforms")->finding.value == 2);
    CHECK(report.rule("no-transforms")->finding.nodes == std::vector<int>{0, 1});
    CHECK(report.rule("no-transforms")->finding.names ==
          std::vector<std::string>{model.nodes[0].name, model.nodes[1].name});
    CHECK(report.rule("no-wrappers")->finding.value == 2);
    CHECK(report.rule("no-wrappers")->finding.names.size() == 2);
    CHECK(report.rule("heading")->state == platform::State::Broken);
    model.nodes[1].name = "lid/with slash";
    model.nodes[2].name = "CRATE";
    report = platform::check(model, *truck);
    CHECK(report.rule("names")->finding.nodes == std::vector<int>{1});
    CHECK(report.rule("names-once")->finding.note.find("crate") != std::string::npos);
    CHECK(report.rule("names-once")->finding.nodes.size() == 2);
    model.headingKnown = true;
    CHECK(platform::check(model, *truck).rule("heading")->state == platform::State::Fits);
}

TEST_CASE("heading turns the front to +Z exactly, by quarters and angles") {
    const auto tip = [](const Model& m) { return geometry::worldBounds(m); };
    Model arrow = shapes::box({-0.1, 0, -0.1}, {2, 0.1, 0.1}); // points to +X
    const Model turned = ran("heading", {{"front", "+x"}}, arrow);
    CHECK(tip(turned).max.z == Approx(2));
    CHECK(tip(turned).max.x == Approx(0.1));
    CHECK(turned.headingKnown);
    CHECK(tip(ran("heading", {{"front", "angle"}, {"angle", 90}}, arrow)).max.z == Approx(2));
    CHECK(tip(ran("heading", {{"front", "-x"}}, arrow)).min.z == Approx(-2));
    CHECK(tip(ran("heading", {{"front", "-z"}}, arrow)).max.x == Approx(0.1));
    CHECK(tip(ran("heading", {{"front", "+z"}}, arrow)).max.x == Approx(2));
}

TEST_CASE("a front is guessed from wheels or a face, and not where nothing says it") {
    const Model cart = shapes::cart();
    const auto guess = geometry::guessHeading(cart);
    REQUIRE(guess);
    CHECK(std::abs(std::remainder(guess->angle - glm::radians(-90.0), glm::radians(360.0))) < 1e-6);
    CHECK(guess->reason.find("wheels") != std::string::npos);
    // Smaller wheels in front say it too, also without a cab; against the cab they leave it open.
    const auto withWheels = [&](double atMinus, double atPlus, bool cab) {
        Model model = shapes::cart();
        for (std::size_t n = 1; n <= 4; ++n) {
            const bool minus = model.nodes[n].local[3].x < 0;
            const double size = minus ? atMinus : atPlus;
            model.nodes[n].local[3].y = 0.5 * size;
            model.nodes[n].local = glm::scale(model.nodes[n].local, glm::dvec3(size));
        }
        if (!cab) model.nodes.pop_back();
        return geometry::guessHeading(model);
    };
    REQUIRE(withWheels(1, 0.8, false));
    CHECK(withWheels(1, 0.8, false)->angle == Approx(glm::radians(90.0)));
    CHECK(withWheels(1, 0.8, false)->reason.find("+X") != std::string::npos);
    CHECK_FALSE(withWheels(1, 0.8, true));
    CHECK(withWheels(0.8, 1, true)->angle == Approx(glm::radians(-90.0)));
    // A block that is mirrored left and right, with a nose of many corners at +Z.
    Model head = shapes::box({-1, 0, -1.5}, {1, 2, 1});
    Mesh nose = shapes::sphere(24, 16, 0.4);
    nose.uvSets.clear();
    head.nodes.push_back({"nose", -1, glm::translate(glm::dmat4(1.0), {0.0, 1.0, 1.1}), 1});
    head.meshes.push_back(std::make_shared<const Mesh>(nose));
    const auto face = geometry::guessHeading(head);
    REQUIRE(face);
    CHECK(std::abs(face->angle) < 1e-6);
    CHECK_FALSE(geometry::guessHeading(shapes::modelOf(shapes::sphere(40, 20)))); // alike all round
    CHECK_FALSE(geometry::guessHeading(shapes::box({0, 0, 0}, {1, 2, 3})));
    CHECK_FALSE(geometry::guessHeading(Model{}));
}

TEST_CASE("a yardstick's measure is matched, and one without volume is refused") {
    Model door = shapes::box({0, 0, 0}, {1, 2.1, 0.1});
    door.nodes[0].name = "door";
    Model sheetOfPaper = shapes::modelOf([] {
        Mesh mesh;
        mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
        mesh.indices = {0, 1, 2};
        return mesh;
    }());
    Model own = shapes::box({0, 0, 0}, {2, 1, 4});
    CHECK_THROWS_AS(ran("match-yardstick", nullptr, own), Error);
    TestSurroundings around;
    around.add("Door", door, 1);
    around.add("Paper", sheetOfPaper, 2);
    const auto matched = [&](const nlohmann::json& params) {
        return geometry::worldBounds(ran("match-yardstick", params, own, nullptr, nullptr, &around)).size();
    };
    CHECK(matched(nullptr).y == Approx(2.1));
    CHECK(matched({{"by", "width"}, {"ratio", 3}}).x == Approx(3));
    const auto volume = matched({{"by", "volume"}});
    CHECK(volume.x * volume.y * volume.z == Approx(0.21));
    CHECK_THROWS_AS(matched({{"by", "volume"}, {"yardstick", "Paper"}}),
                    Error); // a name alone, as it was once
    CHECK_THROWS_AS(matched({{"yardstick", {{"yardstick", "Gate"}}}}), Error);
    CHECK_THROWS_AS(matched({{"part", "wing*"}}), Error);
    // A changed yardstick reruns the step, and only it.
    recipe::EvaluationCache cache;
    const auto recipe = recipe::fromJson({{{"step", "turn"}}, {{"step", "match-yardstick"}}});
    recipe::evaluate(own, 1, recipe, {nullptr, &around}, &cache);
    CHECK(recipe::evaluate(own, 1, recipe, {nullptr, &around}, &cache).outcomes[1].fromCache);
    around.add("Door", moved(door, glm::scale(glm::dmat4(1.0), glm::dvec3(2))), 3);
    const auto again = recipe::evaluate(own, 1, recipe, {nullptr, &around}, &cache);
    CHECK(again.outcomes[0].fromCache);
    CHECK_FALSE(again.outcomes[1].fromCache);
    CHECK(geometry::worldBounds(again.model).size().y == Approx(4.2));
}

TEST_CASE("size by a part's extent") {
    Model model = nested(); // the lid is 0.2 high
    CHECK(geometry::worldBounds(ran("size", {{"by", "height"}, {"measure", 0.4}, {"part", "lid"}}, model))
              .size()
              .x == Approx(2));
    CHECK_THROWS_AS(ran("size", {{"by", "height"}, {"measure", 0.4}, {"part", "keel"}}, model), Error);
}

TEST_CASE("the plan makes a nested, mirrored, oversized cart fit the yard") {
    Model cart = shapes::box({-1, 0, -2}, {1, 1.2, 2});
    cart.nodes[0].name = "Body Work";
    cart.nodes.insert(cart.nodes.begin(),
                      Node{"export root", -1,
                           glm::scale(glm::translate(glm::dmat4(1.0), {3.0, 1.0, 0.0}), {-6.0, 6.0, 6.0})});
    cart.nodes[1].parent = 0;
    Mesh nose = shapes::sphere(24, 16, 0.3);
    nose.uvSets.clear();
    cart.nodes.push_back({"nose", 0, glm::translate(glm::dmat4(1.0), {0.0, 0.8, 1.9}), 1});
    cart.meshes.push_back(std::make_shared<const Mesh>(nose));
    const auto truck = sheet("mudhaul");
    const auto plan = planner::plan(cart, *truck);
    INFO((plan.reasons.empty() ? std::string() : plan.reasons[0]));
    CHECK(plan.holds);
    std::vector<std::string> steps;
    for (const auto& step : plan.steps) steps.push_back(step.entry.step);
    for (const char* wanted : {"heading", "size", "bake-placement", "rename-parts"})
        CHECK(std::ranges::find(steps, wanted) != steps.end());
}
