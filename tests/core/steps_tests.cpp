#include "core/geometry/foot.h"
#include "core/geometry/weld.h"
#include "core/recipe/recipe.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

namespace {

struct Ran {
    Model model;
    std::vector<std::string> notes;
    nlohmann::json facts;
};

Ran run(const char* id, const nlohmann::json& params, const Model& in,
        const platform::Sheet* sheet = nullptr) {
    auto step = steps::makeStep(id);
    if (!params.is_null()) step->setParams(params);
    const Progress progress;
    steps::StepContext context{progress, sheet};
    Ran out;
    out.model = step->apply(in, context);
    out.notes = context.notes;
    out.facts = context.facts;
    return out;
}

glm::dvec3 sizeOf(const Model& model) {
    return geometry::worldBounds(model).size();
}

} // namespace

TEST_CASE("every step's parameters survive JSON, and its fields have names and help") {
    for (const auto& step : steps::allSteps()) {
        INFO(step->info().id);
        auto copy = steps::makeStep(step->info().id);
        copy->setParams(step->params());
        CHECK(copy->params() == step->params());
        CHECK_FALSE(step->info().help.empty());
        for (const auto& field : step->fields()) {
            CHECK_FALSE(field.name.empty());
            CHECK_FALSE(field.label.empty());
            CHECK_FALSE(field.explanation.empty());
            if (field.isOf(fields::choice)) CHECK_FALSE(field.choices.empty());
        }
    }
}

TEST_CASE("parameters that make no sense are refused with what was expected") {
    auto step = steps::makeStep("size");
    CHECK_THROWS_WITH(step->setParams({{"by", "colour"}}), Catch::Contains("by"));
    CHECK_THROWS_WITH(step->setParams({{"factr", 2}}), Catch::Contains("factr"));
    CHECK_THROWS_AS(step->setParams({{"factor", -1}}), Error);
    CHECK_THROWS_AS(step->setParams({{"factor", "two"}}), Error);
    CHECK_THROWS_AS(step->setParams({{"from", {1, 2}}}), Error);
    CHECK_THROWS_AS(step->setParams(nlohmann::json::array()), Error);
    CHECK_THROWS_AS(steps::makeStep("melt"), Error);
    CHECK_THROWS_AS(steps::makeStep("collider-cylinder")->setParams({{"sides", 7.5}}), Error);
}

TEST_CASE("unit and up replaces what was assumed") {
    Model model = shapes::box({0, 0, 0}, {10, 20, 30});
    const auto mm = run("unit-and-up", {{"unit", "mm"}, {"up", "z"}}, model).model;
    CHECK(sizeOf(mm).x == Approx(0.010));
    CHECK(sizeOf(mm).y == Approx(0.030)); // file z
    CHECK(sizeOf(mm).z == Approx(0.020));
    CHECK_FALSE(mm.frame.unitAssumed);
    // Saying it again differently does not add up.
    const auto inches = run("unit-and-up", {{"unit", "in"}, {"up", "y"}}, mm).model;
    CHECK(sizeOf(inches).y == Approx(20 * 0.0254));
    const auto custom = run("unit-and-up", {{"unit", "custom"}, {"metres", 0.5}, {"up", "y"}}, model).model;
    CHECK(sizeOf(custom).x == Approx(5));
}

TEST_CASE("what placing did stays when the unit is changed behind it") {
    const Model model = shapes::box({0, 0, 0}, {10, 20, 30});
    const auto placed = run("origin", {{"at", "centre"}}, model).model;
    const auto mm = run("unit-and-up", {{"unit", "cm"}, {"up", "y"}}, placed).model;
    CHECK(sizeOf(mm).x == Approx(0.1));
}

TEST_CASE("turning by quarters is exact and free angles are right") {
    const Model model = shapes::box({0, 0, 0}, {1, 2, 3});
    const auto once = run("turn", {{"x", 90}}, model).model;
    const auto bounds = geometry::worldBounds(once);
    CHECK(bounds.size() == glm::dvec3(1, 3, 2)); // exactly
    CHECK(bounds.max.z == 2.0);                  // y went to z
    const auto back = run("turn", {{"x", -90}}, once).model;
    CHECK(back.placement == model.placement);
    const auto tipped = run("turn", {{"y", 30}}, model).model;
    CHECK(sizeOf(tipped).x == Approx(std::cos(shapes::pi / 6) + 3 * std::sin(shapes::pi / 6)));
    // About X first, then Y, then Z, each by the right hand.
    glm::dmat4 wanted(1.0);
    wanted = glm::rotate(wanted, glm::radians(70.0), {0, 0, 1});
    wanted = glm::rotate(wanted, glm::radians(-40.0), {0, 1, 0});
    wanted = glm::rotate(wanted, glm::radians(25.0), {1, 0, 0});
    const auto all = run("turn", {{"x", 25}, {"y", -40}, {"z", 70}}, model).model;
    for (int k = 0; k < 4; ++k) CHECK(glm::distance(all.placement[k], wanted[k]) < 1e-12);
}

TEST_CASE("size by factor, by a measure and between two points") {
    const Model model = shapes::box({0, 0, 0}, {1, 2, 4});
    CHECK(sizeOf(run("size", {{"by", "factor"}, {"factor", 3}}, model).model).y == Approx(6));
    CHECK(sizeOf(run("size", {{"by", "height"}, {"measure", 5}}, model).model).y == Approx(5));
    CHECK(sizeOf(run("size", {{"by", "width"}, {"measure", 5}}, model).model).x == Approx(5));
    CHECK(sizeOf(run("size", {{"by", "length"}, {"measure", 5}}, model).model).z == Approx(5));
    const auto points =
        run("size", {{"by", "points"}, {"from", {0, 0, 0}}, {"to", {1, 2, 2}}, {"measure", 1}}, model).model;
    CHECK(sizeOf(points).x == Approx(1.0 / 3));
    CHECK_THROWS_AS(run("size", {{"by", "points"}, {"from", {1, 1, 1}}, {"to", {1, 1, 1}}}, model), Error);
}

TEST_CASE("standing on the floor, and a model with nothing to stand on") {
    const Model model = shapes::box({0, -3, 0}, {1, 2, 1});
    CHECK(geometry::worldBounds(run("stand-on-floor", {}, model).model).min.y == Approx(0).margin(1e-12));
    CHECK(geometry::worldBounds(run("stand-on-floor", {{"lift", 0.5}}, model).model).min.y == Approx(0.5));
    const auto empty = run("stand-on-floor", {}, Model{});
    CHECK(empty.notes.at(0).find("nothing") != std::string::npos);
}

TEST_CASE("the origin goes under the foot, to the centre, or to a point") {
    const Model model = shapes::box({2, 3, 4}, {4, 9, 10});
    const auto foot = geometry::worldBounds(run("origin", {{"at", "foot"}}, model).model);
    CHECK(foot.min.y == Approx(0).margin(1e-9));
    CHECK(foot.centre().x == Approx(0).margin(1e-9));
    CHECK(foot.centre().z == Approx(0).margin(1e-9));
    const auto centre = geometry::worldBounds(run("origin", {{"at", "centre"}}, model).model).centre();
    CHECK(glm::length(centre) == Approx(0).margin(1e-9));
    CHECK(geometry::worldBounds(run("origin", {{"at", "point"}, {"point", {2, 3, 4}}}, model).model).min.x ==
          Approx(0).margin(1e-9));
    CHECK(geometry::worldBounds(run("origin", {{"at", "stay"}}, model).model).min.x == Approx(2));
}

TEST_CASE("weld and clean says how many of each") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(24, 12)));
    const auto result = run("weld-and-clean", {}, model);
    CHECK(result.facts["cornersJoined"] == 24 * 2 * 11 * 3 - (24 * 11 + 2));
    CHECK(result.facts["doublesDropped"] == 0);
    CHECK(vertexCount(result.model) == 24 * 11 + 2);
    CHECK(vertexCount(model) == 24 * 2 * 11 * 3); // the input is what it was
}

TEST_CASE("the tolerance of welding is in metres whatever the file's unit") {
    Mesh mesh = shapes::exploded(geometry::boxMesh({0, 0, 0}, {10, 10, 10})); // millimetres
    for (std::size_t i = 0; i < mesh.positions.size(); ++i) mesh.positions[i].x += float(i % 2) * 0.01f;
    const auto mm = run("unit-and-up", {{"unit", "mm"}, {"up", "y"}}, shapes::modelOf(mesh)).model;
    CHECK(vertexCount(run("weld-and-clean", {{"tolerance", 0.000001}}, mm).model) > 8);
    CHECK(vertexCount(run("weld-and-clean", {{"tolerance", 0.00002}}, mm).model) == 8);
}

TEST_CASE("reducing reports the measured deviation as share of the height") {
    const Model model = shapes::modelOf(shapes::sphere(100, 50));
    const auto result = run("reduce-triangles", {{"goal", "number"}, {"number", 1000}}, model);
    CHECK(result.facts["after"].get<int>() <= 1000);
    CHECK(result.facts["after"].get<int>() >= 970);
    const double share = result.facts["largestDeviationShare"];
    CHECK(share > 0);
    CHECK(share < 0.02);
    CHECK(result.facts["meanDeviationShare"].get<double>() < share);
    const auto half = run("reduce-triangles", {{"goal", "share"}, {"share", 0.5}}, model);
    CHECK(double(triangleCount(half.model)) == Approx(triangleCount(model) * 0.5).epsilon(0.03));
}

TEST_CASE("a limit for each material is kept to over all objects that wear it") {
    // Three balls in rope, one of them in iron, too, and a fourth in iron alone.
    Model model = shapes::modelOf(shapes::sphere(40, 30), "ball");
    model.materials = {{.name = "rope"}, {.name = "iron"}};
    Mesh rope = *model.meshes[0], both = rope, iron = rope;
    const auto all = std::uint32_t(rope.triangleCount());
    rope.runs = {{0, all, 0}}, both.runs = {{0, all / 2, 0}, {all / 2, all - all / 2, 1}},
    iron.runs = {{0, all, 1}};
    model.meshes.clear(), model.nodes.clear();
    for (const Mesh& mesh : {rope, both, iron, rope}) {
        model.nodes.push_back({fmt::format("ball {}", model.nodes.size()), -1,
                               glm::translate(glm::dmat4(1.0), {3.0 * double(model.nodes.size()), 0, 0}),
                               int(model.meshes.size())});
        model.meshes.push_back(std::make_shared<const Mesh>(mesh));
    }
    REQUIRE(trianglesByMaterial(model) == std::map<int, std::size_t>{{0, 5800}, {1, 3480}});
    const auto sheet = sheetWith("id = \"triangles\"\nmost = 3000\nper-material = 1");
    CHECK(platform::check(model, sheet).rules[0].state == platform::State::Broken);
    const Model fewer = ranStep(model, "reduce-triangles", {{"goal", "limit"}}, &sheet).model;
    const auto now = trianglesByMaterial(fewer);
    CHECK(now.at(0) <= 3000);
    CHECK(now.at(0) >= 2500);
    CHECK(now.at(1) <= 3000);
    CHECK(fewer.meshes[2]->triangleCount() > 1500); // iron needs less
    const auto little = ranStep(
        model, "reduce-triangles", {{"goal", "limit"}},
        std::make_unique<platform::Sheet>(sheetWith("id = \"triangles\"\nmost = 2\nper-material = 1")).get());
    CHECK(little.shortfall.find("could not reach 2 a material") != std::string::npos);
}

TEST_CASE("reducing by deviation keeps its promise as measured") {
    const Model model = shapes::modelOf(shapes::sphere(100, 50));
    const double bound = GENERATE(0.02, 0.005);
    const auto result = run("reduce-triangles", {{"goal", "deviation"}, {"deviation", bound}}, model);
    CHECK(triangleCount(result.model) < triangleCount(model));
    CHECK(result.facts["largestDeviationMetres"].get<double>() <= bound);
}

TEST_CASE("a deviation is in metres, whatever the node that shows the mesh makes of its numbers") {
    const Model metres = shapes::modelOf(shapes::sphere(100, 50));
    Model thousandths = shapes::modelOf(shapes::sphere(100, 50, 1000));
    thousandths.nodes[0].local = glm::scale(glm::dmat4(1.0), glm::dvec3(0.001));
    const nlohmann::json params{{"goal", "deviation"}, {"deviation", 0.01}};
    const auto left = double(triangleCount(run("reduce-triangles", params, metres).model));
    CHECK(left < 5000); // of 9800
    CHECK(double(triangleCount(run("reduce-triangles", params, thousandths).model)) ==
          Approx(left).epsilon(0.05));
}

TEST_CASE("colliders stand level with the lowest point") {
    const Model model = shapes::box({-1, 0.25, -2}, {1, 4, 2});
    for (const char* id : {"collider-box", "collider-cylinder"})
        for (const char* around : {"foot", "everything", "numbers"}) {
            INFO(id << " around " << around);
            const auto result = run(id, {{"around", around}}, model);
            REQUIRE(result.model.colliders.size() == 1);
            const auto bounds =
                geometry::meshBounds(*result.model.colliders[0].mesh, result.model.colliders[0].placement);
            CHECK(bounds.min.y == Approx(0.25));
        }
    const auto box =
        run("collider-box", {{"around", "foot"}, {"inset", 0.1}, {"height", 1.0}}, model).model.colliders[0];
    const auto size = geometry::meshBounds(*box.mesh).size();
    CHECK(size.x == Approx(1.8));
    CHECK(size.z == Approx(3.6));
    CHECK(size.y == Approx(1.0));
    const auto round =
        run("collider-cylinder", {{"around", "everything"}, {"inset", 0}, {"sides", 64}}, model)
            .model.colliders[0];
    CHECK(geometry::meshBounds(*round.mesh).size().x == Approx(2 * std::sqrt(5.0)).epsilon(1e-4));
    CHECK_THROWS_AS(run("collider-box", {{"around", "numbers"}, {"left", 1}, {"right", -1}}, model), Error);
}

TEST_CASE("a collider moves with the model") {
    auto model =
        run("collider-box", {{"around", "everything"}, {"inset", 0}}, shapes::box({0, 0, 0}, {1, 1, 1}))
            .model;
    model = run("size", {{"by", "factor"}, {"factor", 2}}, model).model;
    model = run("origin", {{"at", "foot"}}, model).model;
    const auto collider = geometry::meshBounds(*model.colliders[0].mesh, model.colliders[0].placement);
    const auto bounds = geometry::worldBounds(model);
    CHECK(glm::length(collider.min - bounds.min) < 1e-9);
    CHECK(glm::length(collider.max - bounds.max) < 1e-9);
}

TEST_CASE("changing a later step leaves the earlier ones in the cache") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(60, 30)));
    recipe::EvaluationCache cache;
    auto recipe =
        recipe::fromJson({{{"step", "weld-and-clean"}},
                          {{"step", "reduce-triangles"}, {"params", {{"goal", "number"}, {"number", 800}}}},
                          {{"step", "origin"}}});
    const auto first = recipe::evaluate(model, 1, recipe, nullptr, &cache);
    CHECK(first.outcomes[0].ran);
    recipe[2].params["at"] = "centre";
    const auto second = recipe::evaluate(model, 1, recipe, nullptr, &cache);
    CHECK(second.outcomes[0].fromCache);
    CHECK(second.outcomes[1].fromCache);
    CHECK(second.outcomes[2].ran);
    // Another input, or a step switched off, reruns what stands behind it.
    CHECK(recipe::evaluate(model, 2, recipe, nullptr, &cache).outcomes[0].ran);
    recipe[0].on = false;
    CHECK(recipe::evaluate(model, 1, recipe, nullptr, &cache).outcomes[1].ran);
}

TEST_CASE("a step that cannot run stops the work or passes its input on") {
    const Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    const auto recipe = recipe::fromJson(
        {{{"step", "size"}, {"params", {{"by", "points"}, {"from", {0, 0, 0}}, {"to", {0, 0, 0}}}}},
         {{"step", "stand-on-floor"}}});
    CHECK_THROWS_AS(recipe::evaluate(model, 1, recipe, nullptr, nullptr), Error);
    const auto passed = recipe::evaluate(model, 1, recipe, nullptr, nullptr, {}, recipe::OnProblem::PassOn);
    CHECK_FALSE(passed.outcomes[0].problem.empty());
    CHECK(passed.outcomes[1].problem.empty());
}

TEST_CASE("work that is cancelled stops") {
    const std::atomic<bool> cancelled{true};
    const Progress progress({}, &cancelled);
    const Model model = shapes::modelOf(shapes::sphere(60, 30));
    CHECK_THROWS_AS(recipe::evaluate(model, 1, recipe::fromJson({{{"step", "weld-and-clean"}}}), nullptr,
                                     nullptr, progress),
                    Cancelled);
}

TEST_CASE("recipes with faults are refused line by line") {
    CHECK_THROWS_AS(recipe::fromJson(nlohmann::json::object()), Error);
    CHECK_THROWS_AS(recipe::fromJson({{{"stp", "size"}}}), Error);
    CHECK_THROWS_AS(recipe::fromJson({{{"step", "size"}, {"on", 3}}}), Error);
    try {
        recipe::fromJson({{{"step", "size"}}, {{"step", "size"}, {"params", {{"factor", "x"}}}}});
        FAIL("not refused");
    } catch (const Error& error) {
        CHECK(error.where().find("line 2") != std::string::npos);
    }
}

TEST_CASE("notes tell lengths in the platform's unit, and in metres where there is no platform") {
    const auto table = platform::sheetNamed(platform::loadSheets(), "hearthboard");
    const Model box = shapes::box({0, 0.05, 0}, {0.025, 0.1, 0.025}); // one unit wide, two tall
    const auto noted = [&](const char* id, const platform::Sheet* sheet) {
        const Progress progress;
        steps::StepContext context{progress, sheet};
        steps::makeStep(id)->apply(box, context);
        std::string all;
        for (const std::string& note : context.notes) all += note + "; ";
        return all;
    };
    CHECK(noted("stand-on-floor", table.get()).find("moved down by 2\u202fu") != std::string::npos);
    CHECK(noted("stand-on-floor", nullptr).find("moved down by 0.05 m") != std::string::npos);
    for (const char* id : {"origin", "collider-box", "collider-cylinder"}) {
        INFO(noted(id, table.get()));
        CHECK(noted(id, table.get()).find("\u202fu") != std::string::npos);
        CHECK(noted(id, nullptr).find(" m") != std::string::npos);
    }
}
