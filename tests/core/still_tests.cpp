// A piece that could move, made to stand as it is seen at one moment.
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/still.h"
#include "core/planner/planner.h"
#include "support/avatar_figure.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/swimmer.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

/// Where corners are seen, in a pose.
std::vector<glm::vec3> seenIn(const Model& model, const motion::Pose& pose) {
    Mesh flat = geometry::flattened(model);
    motion::poseFlattened(model, pose, flat);
    return flat.positions;
}

void checkStill(const Model& model, const Clip& clip, double seconds) {
    const auto pose = motion::posed(model, clip, seconds);
    const Model still = motion::stillIn(model, pose);
    CHECK_FALSE(motion::canMove(still));
    CHECK(brokenPromise(still).empty());
    const auto seen = seenIn(model, pose);
    const Mesh flat = geometry::flattened(still);
    REQUIRE(flat.positions.size() == seen.size());
    const double size = glm::length(geometry::worldBounds(model).size());
    for (std::size_t v = 0; v < seen.size(); ++v)
        REQUIRE(glm::distance(flat.positions[v], seen[v]) < 1e-5 * size);
}

} // namespace

TEST_CASE("a piece stands still as it is seen at rest and in each clip") {
    for (const Model& model : {swimmer(), avatarFigure(), richModel()}) {
        INFO(model.name);
        REQUIRE(motion::canMove(model));
        checkStill(model, Clip{}, 0);
        for (const auto& clip : model.clips)
            for (const double share : {0.0, 0.37, 1.0})
                checkStill(model, *clip, share * motion::lengthOf(*clip));
    }
}

TEST_CASE("what could not move stays as it is, and bones that hold nothing go") {
    const Model box = shapes::box({0, 0, 0}, {1, 1, 1});
    CHECK(ranStep(box, "stand-still", nlohmann::json::object()).notes[0] == "nothing could move");
    const Model fish = swimmer();
    const auto ran = ranStep(fish, "stand-still", nlohmann::json::object());
    CHECK(ran.model.skins.empty());
    CHECK(geometry::flattened(ran.model).positions == geometry::flattened(fish).positions); // as is shown
    CHECK(ran.model.nodes.size() < fish.nodes.size());
    CHECK(ran.facts["bones"] == fish.skins[0].joints.size());
    CHECK_THROWS_AS(ranStep(fish, "stand-still", {{"clip", "no such clip"}}), Error);
}

TEST_CASE("a figure that moves gets a plan where nothing moves: it stands still first") {
    Model fish = swimmer();
    fish.headingKnown = true;
    recipe::Recipe answers{
        {"surface-kind", true, steps::makeStep("surface-kind", {{"kind", "brick"}})->params()}};
    const auto plan = planner::plan(fish, *sheet("portcalder"), nullptr, 0, {}, answers);
    std::string why;
    for (const auto& reason : plan.reasons) why += reason + "\n";
    INFO(why);
    CHECK(plan.holds);
    CHECK(std::ranges::any_of(plan.steps, [](const auto& step) { return step.entry.step == "stand-still"; }));
}
