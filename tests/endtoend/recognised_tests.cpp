// `solids --recognise`: from a mesh to a lit scene that its stand-in takes.
#include "endtoend/command_line.h"

#include <catch2/catch.hpp>

using namespace zl;
namespace fs = std::filesystem;

TEST_CASE("a mesh's loose parts become solids that are lit, written and tried") {
    const TemporaryFolder folder;
    const std::string lamp = "solids " + quoted(demo() / "crate-lamp.glb");
    CHECK(cli(lamp).code == 2); // it is no scene
    const fs::path made = folder / "lamp.solids";
    const auto found = cli(lamp + " --recognise --json --out " + quoted(made));
    REQUIRE(found.code == 0);
    const auto told = found.json();
    CHECK(told["solids"] == 13);
    CHECK(told["leftOut"] == 2);
    REQUIRE(told["parts"].size() == 15);
    for (const auto& part : told["parts"]) CHECK(part["kept"] == (part["share"].get<double>() <= 0.05));
    // A plank of the crate, 0.18 by 0.066 by 0.88 m, is a box to the last.
    CHECK(told["parts"][1]["kind"] == "box");
    CHECK(told["parts"][1]["error"].get<double>() < 1e-4);
    const auto scene = cli("solids " + quoted(made) + " --json");
    REQUIRE(scene.code == 0);
    CHECK(scene.json()["solids"] == 13);
    CHECK(cli("bake " + quoted(made) + " --pixels 16 --fineness 1 --out " + quoted(folder / "lit")).code ==
          0);
    CHECK(cli("try " + quoted(folder / "lit") + " --platform commonmoor").code == 0);
    CHECK(cli(lamp + " --recognise --within 0 --out " + quoted(folder / "lamp.txt")).code == 2);
    CHECK(cli(lamp + " --recognise --within 7").code == 2);
}
