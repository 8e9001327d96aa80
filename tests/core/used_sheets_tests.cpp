// Sheets as a project was saved with them, and yardsticks that go along with a sheet.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/platform/own_sheet.h"
#include "core/platform/sheet_package.h"
#include "core/project/sheet_yardsticks.h"
#include "core/project/used_sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace used_sheets_tests {

using namespace zl::project;
namespace fs = std::filesystem;
using Catch::Matchers::Contains;

const platform::Vocabulary noWords;

struct Bench {
    TemporaryFolder folder;
    Project project;

    Bench() {
        project.file = folder / "bench.zestloom";
        Piece piece;
        piece.name = "Bell";
        piece.crossings = {{"hearthboard", {}}};
        project.pieces = {piece};
    }
    std::vector<project::SheetPointer> sheets() const { return platform::loadSheets(folder.path()); }
    void change(const char* most) const {
        platform::changeSheet(
            *platform::sheetNamed(sheets(), "hearthboard"), folder.path(),
            [&](platform::SheetText& text) {
                text.set("rule", *text.find("rule", "id", "triangles"), "most", most);
            },
            noWords);
    }
};

TEST_CASE("a sheet that changed since the project was saved is said, and the old one can be kept") {
    const Bench bench;
    CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty()); // nothing was kept yet
    keepUsedSheets(bench.project, bench.sheets());
    CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty());
    // Only those that a crossing goes by.
    CHECK(std::distance(fs::directory_iterator(bench.folder / "sheets-used"), {}) == 1);
    bench.change("500");
    const auto changed = changedSheets(bench.project, bench.sheets(), noWords);
    REQUIRE(changed.size() == 1);
    CHECK(changed[0].before->rule("triangles")->limit("most", 0) == 40000);
    CHECK(changed[0].now->rule("triangles")->limit("most", 0) == 500);
    REQUIRE(changed[0].changes.size() == 1);
    CHECK_THAT(changed[0].changes[0], Contains("Triangles"));
    // Until somebody says which is to hold, a save does not forget it.
    keepUsedSheets(bench.project, bench.sheets(), {"hearthboard"});
    CHECK(changedSheets(bench.project, bench.sheets(), noWords).size() == 1);
    SECTION("the new one") {
        keepUsedSheets(bench.project, bench.sheets());
        CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty());
    }
    SECTION("the old one") {
        stayWithUsedSheet(bench.project, "hearthboard", noWords);
        const auto now = platform::sheetNamed(bench.sheets(), "hearthboard");
        CHECK(now->rule("triangles")->limit("most", 0) == 40000);
        CHECK(platform::ownerOf(*now, bench.folder.path()) == platform::SheetOwner::Project);
        CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty());
    }
}

TEST_CASE("copies that cannot be read, and projects without a file, are passed over") {
    Bench bench;
    keepUsedSheets(bench.project, bench.sheets());
    const fs::path kept = bench.folder / "sheets-used/hearthboard.zestsheet";
    for (const std::string& broken : {std::string(), std::string("no zip"), readText(kept).substr(0, 200)}) {
        writeFile(kept, broken);
        CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty());
        CHECK_THROWS_AS(stayWithUsedSheet(bench.project, "hearthboard", noWords), Error);
    }
    bench.project.file.clear();
    CHECK_NOTHROW(keepUsedSheets(bench.project, bench.sheets()));
    CHECK(changedSheets(bench.project, bench.sheets(), noWords).empty());
}

TEST_CASE("yardsticks go along with a sheet, by name, unit and up") {
    Bench bench;
    bench.folder.write("things/stool.stl", "solid");
    bench.folder.write("stool.obj", "v 0 0 0");
    bench.project.yardsticks = {{"Stool", "things/stool.stl", "mm", "z"},
                                {"Stool", "stool.obj", "", ""},
                                {"Gone", "gone.obj", "", ""}};
    const auto files = yardstickFiles(bench.project);
    REQUIRE(files.size() == 3);
    const auto sheet = platform::sheetNamed(bench.sheets(), "hearthboard");
    const fs::path package = bench.folder.write("a.zestsheet", platform::packedSheet(*sheet, files));
    const TemporaryFolder other;
    const fs::path taken = platform::takeSheet(platform::unpackedSheet(package), other.path(), noWords);
    const auto came = yardsticksIn(taken.parent_path());
    REQUIRE(came.size() == 2);
    CHECK(came[0].name == "Stool");
    CHECK(came[0].unit == "mm");
    CHECK(came[0].up == "z");
    CHECK(readText(came[0].path) == "solid");
    CHECK(readText(came[1].path) == "v 0 0 0");
    CHECK(yardsticksIn(other.path()).empty());
    for (const char* wrong : {"[[yardstick]]\nname = \"a\"\nfile = \"../../etc/hosts\"\n",
                              "[[yardstick]]\nname = \"a\"\nfile = \"none.obj\"\n",
                              "[[yardstick]]\nfile = \"none.obj\"\n", "[[yardstik]]\n", "["}) {
        writeFile(other / "yardsticks.toml", wrong);
        CHECK_THROWS_AS(yardsticksIn(other.path()), Error);
    }
}

} // namespace used_sheets_tests
