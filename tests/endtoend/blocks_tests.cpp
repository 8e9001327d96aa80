// `blocks`: what is counted, what is written, and what others read of it.
#include "core/base/file_set.h"
#include "endtoend/command_line.h"

#include <catch2/catch.hpp>

using namespace zl;

TEST_CASE("the airship is built of blocks, counted, and read by another parser just so") {
    const TemporaryFolder out;
    const std::string ship = quoted(demo() / "fair-airship.obj") + " --unit m --up z",
                      xml = quoted(out / "ship.hull.xml");
    const Ran ran = cli("blocks " + ship + " --length 40 --out " + xml + " --json");
    REQUIRE(ran.code == 0);
    const auto told = ran.json();
    for (const char* key :
         {"size", "metres", "count", "byKind", "components", "symmetric", "volumeError", "seconds"})
        CHECK(told.contains(key));
    CHECK(told["size"][2].get<int>() <= 40);
    CHECK(told["size"][0].get<int>() % 2 == 1);
    CHECK(told["metres"][2].get<double>() == Approx(told["size"][2].get<int>() * 0.25));
    CHECK(told["components"] == 1);
    CHECK(told["symmetric"] == true);
    CHECK(told["volumeError"].get<double>() < 0.12);
    CHECK(told["largest"]["blocks"].get<double>() >= 1); // the mooring line ahead is a wire, and left out
    CHECK(told["largest"]["leftOut"] == true);
    std::size_t kinds = 0;
    for (const auto& [kind, count] : told["byKind"].items()) kinds += count.get<std::size_t>();
    CHECK(kinds == told["count"]);
    CHECK(told["withoutHollow"].get<std::size_t>() > told["count"].get<std::size_t>());
    // Python's expat counts the runs.
    const Ran counted =
        run("python3 -c \"import sys,xml.etree.ElementTree as t; r=t.parse(sys.argv[1]).getroot(); "
            "print(sum(int(n.get('long','1')) for n in r.findall('run')), r.get('across'))\" " +
            xml);
    CHECK(counted.out ==
          std::to_string(told["count"].get<int>()) + " " + std::to_string(told["size"][0].get<int>()) + "\n");
    // What was written comes in again, fits and floats.
    REQUIRE(cli("build " + xml + " --platform hullyard --out " + quoted(out / "again")).code == 0);
    const Ran tried = cli("try " + quoted(out / "again") + " --platform hullyard --json");
    CHECK(tried.code == 0);
    CHECK(tried.json()["accepted"] == true);
    CHECK(tried.json()["tests"]["blocks"] == told["count"]);
}

TEST_CASE("blocks that cannot be are refused as such") {
    const std::string ship = "blocks " + quoted(demo() / "fair-airship.obj");
    for (const char* wrong :
         {" --length 0", " --slopes many", " --length 10 --factor 2", " --platform nowhere", " --wall 0"})
        CHECK(cli(ship + wrong).code == 2);
    CHECK(cli("blocks /nowhere.obj").code == 2);
}
