// Suggested fits: shortest lists that hold, on every platform, and reasons where there are none.
#include "core/geometry/bake.h"
#include "core/geometry/world.h"
#include "core/planner/guess.h"
#include "core/planner/planner.h"
#include "core/texture/picture_file.h"
#include "support/rich_model.h"
#include "support/rule_sheet.h"
#include "support/sheets.h"
#include "support/swimmer.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;
using platform::State;

namespace {

std::vector<std::string> idsOf(const planner::Plan& plan) {
    std::vector<std::string> ids;
    for (const auto& step : plan.steps) ids.push_back(step.entry.step);
    return ids;
}

bool has(const planner::Plan& plan, const char* id) {
    const auto ids = idsOf(plan);
    return std::ranges::find(ids, id) != ids.end();
}

/// A post with a beam at its top, `tall` metres, as exploded as a scan, standing `off` beside the origin.
Model crane(double tall, glm::dvec3 off, int detail = 12) {
    Mesh mesh = shapes::sphere(detail, detail / 2, tall / 2);
    for (glm::vec3& p : mesh.positions) {
        p.y = p.y * 0.99f + static_cast<float>(tall / 2);
        if (p.y < tall * 0.08) p.y = 0; // a foot to stand on
        p += glm::vec3(off);
    }
    return shapes::modelOf(shapes::exploded(mesh), "crane");
}

} // namespace

TEST_CASE("what fits already needs nothing that must be") {
    Model model = shapes::box({-0.008, 0, -0.008}, {0.008, 0.032, 0.008});
    const auto plan = planner::plan(model, *sheet("hearthboard"));
    CHECK(plan.holds);
    for (const auto& step : plan.steps) CHECK_FALSE(step.required);
}

TEST_CASE("on every platform a misplaced, oversized scan gets a plan that holds, and no needless step") {
    std::vector<std::string> ids;
    for (const auto& s : platform::loadSheets()) ids.push_back(s->id);
    for (const std::string& id : ids) {
        const auto s = sheet(id);
        INFO(id);
        Model model = crane(s->figureMetres(), {3, 1, -2}, 16);
        model.nodes[0].name = "Big Crane";
        const auto plan = planner::plan(model, *s);
        std::string reasons;
        for (const auto& reason : plan.reasons) reasons += reason + "; ";
        INFO(reasons);
        if (!plan.holds) {
            CHECK(plan.reasons.size() + plan.questions.size() > 0); // says why it can't, or asks
            continue;
        }
        // Running the plan's recipe gives what the plan promised.
        const auto ran = recipe::evaluate(model, 1, plan.recipe(), s.get(), nullptr);
        CHECK(platform::check(ran.model, *s).fits());
        // Each required step is needed: without it some must breaks or the list cannot run.
        for (std::size_t skip = 0; skip < plan.steps.size(); ++skip) {
            if (!plan.steps[skip].required) continue;
            recipe::Recipe shorter;
            for (std::size_t k = 0; k < plan.steps.size(); ++k)
                if (k != skip && plan.steps[k].required) shorter.push_back(plan.steps[k].entry);
            INFO("without " << plan.steps[skip].entry.step);
            const auto less =
                recipe::evaluate(model, 1, shorter, s.get(), nullptr, {}, recipe::OnProblem::PassOn);
            CHECK_FALSE(platform::check(less.model, *s).fits());
        }
    }
}

TEST_CASE("every planned step says what it changes and why") {
    Model model = crane(0.05, {0.2, 0.1, 0}, 160);
    const auto plan = planner::plan(model, *sheet("hearthboard"));
    REQUIRE(plan.holds);
    REQUIRE_FALSE(plan.steps.empty());
    for (const auto& step : plan.steps) {
        INFO(step.entry.step);
        CHECK_FALSE(step.why.empty());
        CHECK(step.before != step.after);
        CHECK_NOTHROW(steps::makeStep(step.entry.step)->setParams(step.entry.params));
    }
}

TEST_CASE("too many triangles are welded before they are reduced, and only when they are too many") {
    const Model many = crane(0.03, {0, 0, 0}, 320); // over 100 000 triangles
    REQUIRE(triangleCount(many) > 40000);
    const auto plan = planner::plan(many, *sheet("hearthboard"));
    const auto ids = idsOf(plan);
    const auto weld = std::ranges::find(ids, "weld-and-clean"),
               reduce = std::ranges::find(ids, "reduce-triangles");
    REQUIRE(weld != ids.end());
    REQUIRE(reduce != ids.end());
    CHECK(weld < reduce);
    const auto ran = recipe::evaluate(many, 1, plan.recipe(), sheet("hearthboard").get(), nullptr);
    CHECK(triangleCount(ran.model) <= 40000);
    CHECK(triangleCount(ran.model) >= 38800); // 97 % of what is allowed
    CHECK_FALSE(has(planner::plan(crane(0.03, {0, 0, 0}, 20), *sheet("hearthboard")), "reduce-triangles"));
}

TEST_CASE("a size far from any that makes sense is taken for another unit") {
    // 1800 metres tall beside a figure of 1.8 m: centimetres or millimetres, but never metres.
    Model model = crane(1800, {0, 0, 0});
    model.frame.unitAssumed = true;
    const auto plan = planner::plan(model, *sheet("portcalder"));
    REQUIRE(has(plan, "unit-and-up"));
    const auto ran = recipe::evaluate(model, 1, plan.recipe(), sheet("portcalder").get(), nullptr);
    CHECK(platform::check(ran.model, *sheet("portcalder")).rule("size")->state != State::Broken);
    CHECK(geometry::worldBounds(ran.model).size().y < 20);
}

TEST_CASE("a sheet without depth does not lie on its flat side only because it is flat") {
    Mesh sheetOfPaper;
    sheetOfPaper.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}};
    sheetOfPaper.indices = {0, 1, 2, 1, 3, 2};
    sheetOfPaper.runs = {{0, 2, -1}};
    Model model = shapes::modelOf(sheetOfPaper, "banner");
    model.frame = {unitNamed("m"), Up::Y, true, true};
    CHECK(planner::guessFrame(model, *sheet("playmeadow")).frame.up == Up::Y);
    CHECK(planner::plan(model, *sheet("playmeadow")).holds);
}

TEST_CASE("where open edges hold too many triangles, a plan lets them go") {
    // Blades of grass: every corner lies on a border.
    Mesh grass;
    for (std::uint32_t i = 0; i < 9000; ++i) {
        const float x = 0.0002f * float(i % 100), z = 0.0002f * float(i / 100);
        for (int k = 0; k < 6; ++k)
            grass.positions.push_back({x + 0.00005f * float(k % 2), 0.005f * float(k / 2), z});
        for (const std::uint32_t c : {0, 1, 2, 1, 3, 2, 2, 3, 4, 3, 5, 4}) grass.indices.push_back(6 * i + c);
    }
    grass.runs = {{0, static_cast<std::uint32_t>(grass.triangleCount()), -1}};
    Model model = shapes::modelOf(grass, "lawn");
    platform::Sheet own = *sheet("playmeadow");
    const auto plan = planner::plan(model, own);
    std::string reasons;
    for (const auto& reason : plan.reasons) reasons += reason + "; ";
    INFO(reasons);
    CHECK(plan.holds);
    CHECK(std::ranges::any_of(plan.steps, [](const auto& step) {
        return step.entry.step == "reduce-triangles" && step.entry.params["hold-borders"] == false;
    }));
}

TEST_CASE("a unit that the file states is not guessed away") {
    Model model = shapes::box({-0.01, 0, -0.01}, {0.01, 0.03, 0.01});
    model.frame = {unitNamed("in"), Up::Y, false, false};
    const auto plan = planner::plan(model, *sheet("hearthboard"));
    for (const auto& step : plan.steps)
        if (step.entry.step == "unit-and-up") CHECK_FALSE(step.required);
}

TEST_CASE("what no step can mend is said, and what can be mended is still planned") {
    // More triangles than the limit that this sheet has for a box, on a thing that floats above the table.
    const Model model = shapes::box({-0.008, 0.1, -0.008}, {0.008, 0.132, 0.008});
    platform::Sheet strict = *sheet("hearthboard");
    strict.rules.push_back(
        {"bones", "corners", "Corners", platform::Severity::Must, {{"most", 3}}, {}, "m", {}});
    const auto plan = planner::plan(model, strict);
    CHECK_FALSE(plan.holds);
    REQUIRE(plan.reasons.size() == 1);
    CHECK(plan.reasons[0].find("corners") != std::string::npos);
    CHECK((has(plan, "origin") || has(plan, "stand-on-floor")));
    CHECK(plan.after.rule("stands-on-floor")->state != State::Broken);
}

TEST_CASE("several objects of one material become the one figure that the table takes") {
    Model model = shapes::box({-0.008, 0, -0.008}, {0.008, 0.024, 0.008});
    model.nodes.push_back({"hat", -1, glm::translate(glm::dmat4(1.0), {0, 0.024, 0}), 0});
    const auto plan = planner::plan(model, *sheet("hearthboard"));
    CHECK(plan.before.rule("objects")->state == State::Broken);
    CHECK(plan.holds);
    CHECK(has(plan, "join-parts"));
}

TEST_CASE("what a step breaks anew is mended by the next: a baked truck of the wrong size is baked again") {
    const Model large = moved(shapes::cart(), glm::scale(glm::dmat4(1.0), glm::dvec3(3)));
    const Model baked = geometry::baked(large).model;
    const auto plan = planner::plan(baked, *sheet("mudhaul"));
    CHECK(plan.before.rule("no-transforms")->state != State::Broken);
    CHECK(plan.before.rule("width")->state == State::Broken);
    CHECK(plan.holds);
    CHECK(has(plan, "size"));
    const auto ids = idsOf(plan);
    CHECK(std::ranges::count(ids, "bake-placement") == 1);
    CHECK(std::ranges::find(ids, "bake-placement") > std::ranges::find(ids, "size"));
    CHECK(std::ranges::find(ids, "bake-placement") > std::ranges::find(ids, "heading"));
}

TEST_CASE("a step that breaks two limits anew is followed by a mend of each") {
    // Bent at rest, and so seen elsewhere than it was bound: as stiff parts it has more triangles, and stands
    // elsewhere.
    Model model = swimmer();
    model.nodes[1].local = glm::translate(glm::dmat4(1), glm::dvec3(0, 0.5, 0));
    model.nodes[2].local = glm::rotate(model.nodes[2].local, 0.3, glm::dvec3(0, 1, 0));
    const auto sheet = sheetWith(
        fmt::format("id = \"one-bone-a-segment\"\nmend = [\"rigid-segments\"]\n"
                    "[[rule]]\nid = \"triangles\"\nlabel = \"T\"\nmessage = \"m\"\nmost = {}\n"
                    "mend = [\"reduce-triangles\"]\n"
                    "[[rule]]\nid = \"stands-on-floor\"\nlabel = \"F\"\nmessage = \"m\"\nwithin = 0.01\n"
                    "mend = [\"stand-on-floor\"]\n",
                    triangleCount(model)));
    const auto plan = planner::plan(model, sheet);
    CHECK(plan.holds);
    const auto ids = idsOf(plan);
    CHECK(has(plan, "rigid-segments"));
    CHECK(std::ranges::find(ids, "reduce-triangles") > std::ranges::find(ids, "rigid-segments"));
    CHECK(std::ranges::find(ids, "stand-on-floor") > std::ranges::find(ids, "rigid-segments"));
}

TEST_CASE("a step that cannot be done on a model is a reason and no failure") {
    // A single triangle that lies flat: there is no height to scale to.
    Mesh flat;
    flat.positions = {{0, 0, 0}, {1, 0, 0}, {0, 0, 1}};
    flat.indices = {0, 1, 2};
    Model model = shapes::modelOf(flat, "flat");
    model.frame = {unitNamed("m"), Up::Y, true, true};
    const auto plan = planner::plan(model, *sheet("hearthboard"));
    CHECK_FALSE(plan.holds);
    REQUIRE_FALSE(plan.reasons.empty());
    CHECK(plan.reasons[0].starts_with("Height"));
    CHECK(plan.reasons[0].find("the measure to go by is zero") != std::string::npos);
}

TEST_CASE("planning is stopped when asked") {
    std::atomic<bool> cancel{true};
    const Progress progress(nullptr, &cancel);
    CHECK_THROWS_AS(planner::plan(crane(5, {1, 1, 1}), *sheet("hearthboard"), nullptr, 0, progress),
                    Cancelled);
}

TEST_CASE("steps that a plan ran are found in the cache when its recipe is added") {
    const Model model = crane(0.05, {0.2, 0.1, 0}, 40);
    const auto s = sheet("hearthboard");
    recipe::EvaluationCache cache;
    const auto base = recipe::evaluate(model, 3, {}, s.get(), &cache);
    const auto plan = planner::plan(base.model, *s, &cache, base.key);
    const auto ran = recipe::evaluate(model, 3, plan.recipe(), s.get(), &cache);
    std::size_t held = 0;
    for (const auto& outcome : ran.outcomes) held += outcome.fromCache;
    CHECK(held > 0);
}

TEST_CASE("a size that nothing says is asked beside the guess that the plan goes by") {
    Model ball = shapes::modelOf(shapes::sphere(24, 12, 0.016), "ball"); // 32 mm: no truck in any unit
    ball.frame.unitAssumed = true;
    const auto truck = sheet("mudhaul");
    const recipe::Recipe facing{{"heading", true, steps::makeStep("heading", {{"front", "+x"}})->params()}};
    const auto asked = planner::plan(ball, *truck, nullptr, 0, {}, facing);
    CHECK(asked.holds); // it is no hindrance
    REQUIRE(asked.questions.size() == 1);
    CHECK(asked.questions[0].step == "size");
    CHECK_FALSE(asked.questions[0].waits());
    CHECK(asked.questions[0].goesBy == "22 dm wide, which Mudhaul allows");
    // Once it is said it is not asked again, by a measure or by two points.
    for (const nlohmann::json& said :
         {nlohmann::json{{"by", "height"}, {"measure", 2.0}},
          nlohmann::json{{"by", "points"}, {"from", {0, 0, 0}}, {"to", {0, 0.016, 0}}, {"measure", 1.0}}}) {
        auto answers = facing;
        answers.push_back({"size", true, steps::makeStep("size", said)->params()});
        const auto plan = planner::plan(ball, *truck, nullptr, 0, {}, answers);
        CHECK(plan.questions.empty());
        CHECK(plan.holds);
        const auto made = recipe::evaluate(ball, 1, plan.recipe(), truck.get(), nullptr);
        CHECK(geometry::worldBounds(made.model).size().y == Approx(2.0).epsilon(1e-6));
    }
    // A file that says its unit says its size.
    ball.frame.unitAssumed = false;
    CHECK(planner::plan(ball, *truck, nullptr, 0, {}, facing).questions.empty());
}

TEST_CASE("a rule of placing that only should hold is planned too, and may be left out") {
    Model ball = moved(shapes::modelOf(shapes::sphere(24, 12, 1.1), "ball"),
                       glm::translate(glm::dmat4(1.0), glm::dvec3(40, 0, 0)));
    const auto plan =
        planner::plan(ball, *sheet("mudhaul"), nullptr, 0, {},
                      {{"heading", true, steps::makeStep("heading", {{"front", "+x"}})->params()}});
    CHECK(plan.holds);
    const auto origin =
        std::ranges::find_if(plan.steps, [](const auto& step) { return step.entry.step == "origin"; });
    REQUIRE(origin != plan.steps.end());
    CHECK(std::ranges::count_if(plan.steps, [](const auto& step) { // one does for all that was moved
              return step.entry.step == "bake-placement";
          }) == 1);
    CHECK(plan.after.rule("origin-under-foot")->state == platform::State::Fits);
}

TEST_CASE("what only a person can know is asked, and the answer makes the plan") {
    // A ball looks alike from everywhere; trucks must face somewhere.
    Model ball = shapes::modelOf(shapes::sphere(24, 12, 1.1), "ball");
    const auto truck = sheet("mudhaul");
    const auto asked = planner::plan(ball, *truck);
    CHECK_FALSE(asked.holds);
    REQUIRE(asked.questions.size() == 1);
    CHECK(asked.questions[0].step == "heading");
    CHECK(asked.questions[0].rule == "heading");
    CHECK(asked.reasons.empty()); // it is a question, not something that stays broken
    const auto answered = [&](const recipe::Recipe& answers) {
        return planner::plan(ball, *truck, nullptr, 0, {}, answers);
    };
    const auto entry = [](const char* id, const nlohmann::json& params) {
        return recipe::Entry{id, true, steps::makeStep(id, params)->params()};
    };
    const auto facing = answered({entry("heading", {{"front", "-x"}})});
    CHECK(facing.holds);
    CHECK(facing.questions.empty());
    const auto heading =
        std::ranges::find_if(facing.steps, [](const auto& step) { return step.entry.step == "heading"; });
    REQUIRE(heading != facing.steps.end());
    CHECK(heading->entry.params["front"] == "-x");
    CHECK(heading->before == "not said");
    // A size that was said stays, also where the platform wants another; then that is why.
    const auto large =
        answered({entry("heading", {{"front", "+z"}}), entry("size", {{"by", "width"}, {"measure", 4.0}})});
    CHECK(std::ranges::count_if(large.steps, [](const auto& step) { return step.entry.step == "size"; }) ==
          1);
    CHECK_FALSE(large.holds);
    REQUIRE_FALSE(large.reasons.empty());
    CHECK(large.reasons[0].find("that is as you said") != std::string::npos);
}

TEST_CASE("what a mend breaks, another mends, and no step stands twice") {
    // Three balls, each in a paint of its own: few enough triangles for each, too many for one that all wear.
    Model model;
    for (int i = 0; i < 3; ++i) {
        Model ball = shapes::modelOf(shapes::sphere(40, 30), fmt::format("ball {}", i));
        Mesh mesh = *ball.meshes[0];
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), i}};
        model.frame = ball.frame;
        model.nodes.push_back(ball.nodes[0]);
        model.nodes.back().mesh = i;
        model.nodes.back().local = glm::translate(glm::dmat4(1.0), {3.0 * i, 0, 0});
        model.meshes.push_back(std::make_shared<const Mesh>(mesh));
        model.materials.push_back(
            {.name = fmt::format("paint {}", i), .baseColour = {0.3f * float(i), 0, 1, 1}});
    }
    model.headingKnown = true;
    const auto plan = planner::plan(model, sheetWith(R"(id = "triangles"
most = 2000
per-material = 1
mend = ["reduce-triangles"]
[[rule]]
id = "materials"
label = "Materials"
message = "Because."
most = 1
mend = ["one-material"]
)"));
    CHECK(plan.holds);
    std::vector<std::string> ids;
    for (const auto& step : plan.steps) ids.push_back(step.entry.step);
    CHECK(ids == std::vector<std::string>{"one-material", "reduce-triangles"});
}

TEST_CASE("many faces without area are taken out before a reduction that they would hold up") {
    Model model = shapes::modelOf(shapes::sphere(60, 40), "ball");
    Mesh mesh = *model.meshes[0];
    const std::size_t round = mesh.triangleCount();
    for (std::size_t t = 0; t < round; t += 4) { // folded onto an edge of every fourth face
        const std::uint32_t a = mesh.indices[3 * t], b = mesh.indices[3 * t + 1];
        mesh.indices.insert(mesh.indices.end(), {a, b, a});
    }
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.headingKnown = true;
    const auto plan =
        planner::plan(model, sheetWith("id = \"triangles\"\nmost = 400\nmend = [\"reduce-triangles\"]"));
    CHECK(plan.holds);
    REQUIRE(plan.steps.size() == 2);
    CHECK(plan.steps[0].entry.step == "weld-and-clean");
    CHECK(plan.steps[0].after == "none");
}

TEST_CASE("what must hold is mended at the cost of what only should") {
    Model model = shapes::box({-1, 0, -1}, {1, 1, 1});
    model.headingKnown = true;
    Mesh mesh = *model.meshes[0];
    mesh.runs.clear();
    for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t) {
        model.materials.push_back({.name = fmt::format("paint {}", t)});
        model.materials.back().baseColour = {0.05f * float(t), 0.3f, 0.2f, 1};
        mesh.runs.push_back({t, 1, int(t)});
    }
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    const auto sheet = sheetWith(R"(id = "materials"
most = 2
mend = ["one-material"]
[[rule]]
id = "texture-memory"
label = "Memory"
message = "Because."
severity = "should"
most-megabytes = 0.000001
)");
    const auto plan = planner::plan(model, sheet);
    CHECK(plan.before.rules[1].state == platform::State::Fits); // there was no picture
    CHECK(plan.holds);
    CHECK(plan.after.rules[1].state == platform::State::Broken);
    REQUIRE(plan.steps.size() == 1);
    CHECK(plan.steps[0].entry.step == "one-material");
}

TEST_CASE("where a step falls short, the reason is its own") {
    // A truck's nodes may carry no transform; what a clip moves keeps one.
    Model lid = shapes::box({-1, 0, -1}, {1, 1, 1});
    lid.nodes[0].local = glm::scale(glm::dmat4(1.0), glm::dvec3(2.0));
    Channel rising;
    rising.node = 0, rising.times = {0, 1}, rising.values = {0, 0, 0, 0, 1, 0};
    lid.clips.push_back(std::make_shared<const Clip>(Clip{"open", {rising}}));
    const auto plan = planner::plan(lid, *sheet("mudhaul"));
    const auto baked = std::ranges::find_if(
        plan.reasons, [](const std::string& reason) { return reason.starts_with("Baked"); });
    INFO(Catch::Detail::stringify(plan.reasons));
    REQUIRE(baked != plan.reasons.end());
    CHECK(baked->find("because a clip or a bone moves") != std::string::npos);
}

TEST_CASE("a width that was said is the width of the piece as it faces, whichever was said first") {
    // A desk of 2 m by 1 m that looks along its long side: what is wide of it is the metre.
    Model desk = shapes::box({-1, 0, -0.5}, {1, 1, 0.5});
    desk.frame.unitAssumed = true;
    const auto truck = sheet("mudhaul");
    const recipe::Entry front{"heading", true, steps::makeStep("heading", {{"front", "+x"}})->params()};
    const recipe::Entry width{"size", true,
                              steps::makeStep("size", {{"by", "width"}, {"measure", 2.2}})->params()};
    for (const recipe::Recipe& answers : {recipe::Recipe{front, width}, recipe::Recipe{width, front}}) {
        const auto plan = planner::plan(desk, *truck, nullptr, 0, {}, answers);
        CHECK(plan.holds);
        CHECK(plan.after.rule("width")->finding.measured == "22\u202fdm");
    }
}
