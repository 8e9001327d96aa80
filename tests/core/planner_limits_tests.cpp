// Plans for models that nobody made with the platform in mind: too large for the steps, round where a box is
// wanted, off whole blocks, of materials that say nothing.
#include "core/geometry/world.h"
#include "core/planner/planner.h"
#include "core/planner/whole_blocks.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

recipe::Recipe facing() {
    return {{"heading", true, steps::makeStep("heading", {{"front", "+z"}})->params()}};
}

} // namespace

TEST_CASE("a model larger than any size that a step takes still has a plan") {
    // Its nearest whole number of blocks is more metres than can be asked for.
    const Model tower = shapes::box({-0.65, 0, -0.65}, {0.65, 2e6, 0.65});
    for (const char* platform : {"cobblekeep", "hearthboard", "portcalder"}) {
        INFO(platform);
        const auto plan = planner::plan(tower, *sheet(platform));
        CHECK(plan.holds == plan.after.fits());
    }
}

TEST_CASE(
    "a round foot gets a box where the platform takes no cylinder, and convex pieces keep its faces few") {
    const auto cobblekeep = sheet("cobblekeep");
    Mesh ball = shapes::sphere(32, 16, 1.0);
    for (glm::vec3& p : ball.positions) p.y += 1;
    const Model round = shapes::modelOf(ball, "ball");
    const auto plan = planner::plan(round, *cobblekeep, nullptr, 0, {}, facing());
    CHECK(plan.holds);
    const auto box =
        std::ranges::find_if(plan.steps, [](const auto& step) { return step.entry.step == "collider-box"; });
    REQUIRE(box != plan.steps.end());

    const auto made = ranStep(round, "convex-pieces", nlohmann::json::object(), cobblekeep.get());
    std::size_t triangles = 0;
    for (const auto& body : made.model.colliders) triangles += body.mesh->triangleCount();
    CHECK(triangles > 0);
    CHECK(triangles <= 600); // as the sheet says
}

TEST_CASE(
    "sides become whole blocks by the nearest scale, or by a little stretching where no scale does it") {
    using Catch::Matchers::WithinAbs;
    // 1.6 × 3.2 × 4.8 is 1 × 2 × 3 at five eighths and 2 × 4 × 6 at five quarters; the latter is nearer.
    const auto factor = planner::factorToWhole({1.6, 3.2, 4.8}, 0.02);
    REQUIRE(factor);
    for (const double side : {1.6, 3.2, 4.8})
        CHECK(std::abs(side * *factor / std::round(side * *factor) - 1) <= 0.02);
    CHECK_THAT(*factor, WithinAbs(1.25, 0.03));
    CHECK_THAT(*planner::factorToWhole({2.02, 3.02, 0.99}, 0.02), WithinAbs(1, 0.02));
    CHECK_FALSE(planner::factorToWhole({1, 1.37, 1.71}, 0.02));
    for (const glm::dvec3 bad : {glm::dvec3(0, 1, 1), glm::dvec3(NAN, 1, 1), glm::dvec3(1e30, 1, 1)}) {
        CHECK_FALSE(planner::factorToWhole(bad, 0.02));
        CHECK_FALSE(planner::stretchToWhole(bad));
    }

    const auto stretch = planner::stretchToWhole({2.2, 3.2, 4.2});
    REQUIRE(stretch);
    CHECK_THAT(stretch->x * 2.2, WithinAbs(2, 1e-9));
    CHECK_THAT(stretch->y * 3.2, WithinAbs(3, 1e-9));
    CHECK_THAT(stretch->z * 4.2, WithinAbs(4, 1e-9));
    CHECK(planner::keepsShape(*stretch));
    CHECK_FALSE(planner::keepsShape(*planner::stretchToWhole({0.5, 1.4, 1.4}))); // that is another shape

    const auto plan = planner::plan(shapes::box({-1.1, 0, -2.1}, {1.1, 3.2, 2.1}), *sheet("cobblekeep"),
                                    nullptr, 0, {}, facing());
    CHECK(plan.holds);
    CHECK(std::ranges::any_of(plan.steps, [](const auto& step) { return step.entry.step == "reshape"; }));
}

TEST_CASE("what would become another shape is asked, and stretched only when that is said") {
    const Model chair = shapes::box({-0.25, 0, -0.3}, {0.25, 1.9, 0.3});
    const auto cobblekeep = sheet("cobblekeep");
    const auto asks = planner::plan(chair, *cobblekeep, nullptr, 0, {}, facing());
    CHECK_FALSE(asks.holds);
    const auto question = std::ranges::find(asks.questions, "reshape", &planner::Question::step);
    REQUIRE(question != asks.questions.end());
    CHECK(question->words == "May it be stretched to 1 × 2 × 1 blocks?");
    auto answers = facing();
    answers.push_back({"reshape", true, steps::makeStep("reshape")->params()});
    const auto answered = planner::plan(chair, *cobblekeep, nullptr, 0, {}, answers);
    CHECK(answered.holds);
    const auto size =
        geometry::worldBounds(recipe::evaluate(chair, 1, answered.recipe(), cobblekeep.get(), nullptr).model)
            .size();
    CHECK(size.x == Approx(1));
    CHECK(size.y == Approx(2));
    CHECK(size.z == Approx(1));

    const Model leaf = shapes::box({-1, 0, 0}, {1, 2, 0}); // whole blocks, but for one side that is none
    const auto flat = planner::plan(leaf, *cobblekeep, nullptr, 0, {}, answers);
    CHECK_FALSE(flat.holds);
    CHECK(std::ranges::any_of(flat.reasons, [](const std::string& reason) {
        return reason.ends_with("a side without length cannot be stretched");
    }));
}

TEST_CASE("what a thing is made of is asked where its materials' names do not say it, and never guessed") {
    const Model plain = shapes::box({-1, 0, -1}, {1, 2, 1});
    const auto portcalder = sheet("portcalder");
    const auto asks = planner::plan(plain, *portcalder);
    const auto question = std::ranges::find(asks.questions, "surface-kind", &planner::Question::step);
    REQUIRE(question != asks.questions.end());
    CHECK(question->waits());
    CHECK_FALSE(
        std::ranges::any_of(asks.steps, [](const auto& step) { return step.entry.step == "surface-kind"; }));

    recipe::Recipe answers = facing();
    answers.push_back({"surface-kind", true, steps::makeStep("surface-kind", {{"kind", "brick"}})->params()});
    const auto answered = planner::plan(plain, *portcalder, nullptr, 0, {}, answers);
    CHECK(answered.holds);
    CHECK(std::ranges::none_of(answered.questions, &planner::Question::waits));
    const auto said = std::ranges::find_if(
        answered.steps, [](const auto& step) { return step.entry.step == "surface-kind"; });
    REQUIRE(said != answered.steps.end());
    CHECK(said->entry.params.at("kind") == "brick");
}

TEST_CASE("what lies flat and is far too long is made as long as a figure is tall") {
    auto answers = facing();
    answers.push_back({"surface-kind", true, steps::makeStep("surface-kind", {{"kind", "wood"}})->params()});
    const auto plan = planner::plan(shapes::box({-400, 0, -20}, {400, 0.5, 20}), *sheet("culvert"), nullptr,
                                    0, {}, answers);
    CHECK(plan.holds);
}
