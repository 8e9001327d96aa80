// Plans for models whose own measures are beyond what steps take.
#include "core/planner/planner.h"
#include "support/shapes.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;

TEST_CASE("a model larger than any size that a step takes still has a plan") {
    // Its nearest whole number of blocks is more metres than can be asked for.
    const Model tower = shapes::box({-0.65, 0, -0.65}, {0.65, 2e6, 0.65});
    for (const char* platform : {"cobblekeep", "hearthboard", "portcalder"}) {
        INFO(platform);
        const auto plan = planner::plan(tower, *sheet(platform));
        CHECK(plan.holds == plan.after.fits());
    }
}
