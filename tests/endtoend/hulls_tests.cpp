// `hulls`: a concave piece of the demo as convex pieces, by the command line.
#include "endtoend/command_line.h"

#include <catch2/catch.hpp>

TEST_CASE("hulls tells pieces, corners and how well they stand for the model") {
    const std::string hoist = quoted(demo() / "dock-hoist.obj");
    const Ran ran = cli("hulls " + hoist + " --unit cm --up z --pieces 6 --corners 20 --json");
    REQUIRE(ran.code == 0);
    const auto told = ran.json();
    for (const char* key :
         {"pieces", "corners", "volume", "filled", "missing", "largestDistance", "unknown", "seconds"})
        CHECK(told.contains(key));
    CHECK(told["pieces"] <= 6);
    CHECK(told["corners"] <= 20);
    const auto one = cli("hulls " + hoist + " --unit cm --up z --pieces 1 --json").json();
    CHECK(one["pieces"] == 1);
    CHECK(one["volume"].get<double>() == Approx(told["volume"].get<double>()).epsilon(0.05));
    CHECK(told["filled"].get<double>() < 0.3 * one["filled"].get<double>()); // a crane is mostly air
    CHECK(told["missing"].get<double>() < 0.1 * told["volume"].get<double>());
    CHECK(one["missing"].get<double>() < 1e-3 * one["volume"].get<double>());

    const Ran words = cli("hulls " + hoist + " --pieces 2");
    CHECK(words.out.find("2 pieces, of ") != std::string::npos);
    CHECK(words.out.find("% too much") != std::string::npos);
    CHECK(cli("hulls " + hoist + " --pieces 0").code == 2);
    CHECK(cli("hulls " + hoist + " --corners 3").code == 2);
    CHECK(cli("hulls /nowhere.obj").code == 2);
}
