// What a sheet itself says is installed: files where it says, entries in the game's own tables, and out
// again.
#include "core/base/error.h"
#include "core/install/install.h"
#include "core/platform/sheet.h"
#include "support/sheet_text.h"

#include <catch2/catch.hpp>

#include <map>

using namespace zl;

namespace own_install_tests {

using namespace zl::install;
namespace fs = std::filesystem;
using Catch::Matchers::Contains;

using Tree = std::map<std::string, std::string>;

Tree treeOf(const fs::path& folder) {
    Tree out;
    for (const auto& entry : fs::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            out[entry.path().lexically_relative(folder).generic_string()] = readText(entry.path());
    return out;
}

platform::Sheet weir(const std::string& installed = "props/{name}") {
    return readSheetText(
        sheetText("[deliver]\nkind = \"files\"\ninstalled = \"" + installed +
                  "\"\n[[file]]\npath = \"{name}.glb\"\nformat = \"glb\"\n"
                  "[[table]]\npath = \"data/props.csv\"\nheader = \"id,name\"\nkey = \"id\"\n"
                  "entry = \"7,{{name}}\"\n"
                  "[[table]]\npath = \"data/props.json\"\nform = \"json\"\nunder = \"props\"\n"
                  "key = \"name\"\nentry = '''{\"name\": \"{{name}}\"}'''\n"));
}

struct Scene {
    TemporaryFolder folder;
    fs::path delivered = folder / "delivered/bell", game = folder / "game";

    Scene() {
        deliver("1");
        writeAllOrNone(game, {{"game.txt", "somebody's"},
                              {"data/props.csv", "id,name\r\n3,tub\r\n9,mast\r\n"},
                              {"data/props.json", "{\"props\":[ {\"name\":\"tub\"} ], \"v\": 1}"}});
    }
    void deliver(const std::string& model) const {
        writeAllOrNone(delivered, {{"bell.glb", model},
                                   {"data/props.csv", "id,name\n7,bell\n"},
                                   {"data/props.json", "{\"props\":[{\"name\":\"bell\"}]}"}});
    }
    Plan in(const platform::Sheet& sheet, const Wishes& wishes = {}) const {
        const auto work = preparedFor(sheet, "bell", delivered, game, wishes);
        if (work.plan().problems.empty()) work.carryOut();
        return work.plan();
    }
};

TEST_CASE(
    "files go where the sheet says, entries into the game's tables, and all of it comes out to the byte") {
    const Scene scene;
    const Tree before = treeOf(scene.game);
    CHECK(canInstall(weir()));
    CHECK(scene.in(weir()).problems.empty());
    CHECK(readText(scene.game / "props/bell/bell.glb") == "1");
    CHECK(readText(scene.game / "data/props.csv") == "id,name\r\n3,tub\r\n7,bell\r\n9,mast\r\n");
    CHECK_THAT(readText(scene.game / "data/props.json"),
               Contains("bell") && Contains("tub") && Contains("\"v\""));
    CHECK_FALSE(fs::exists(scene.game / "props/bell/data"));
    const auto there = found(scene.game, "bell");
    CHECK(std::ranges::count(there, "data/props.csv: the entry 7") == 1);
    // A second time changes nothing; another delivery takes the first one's place.
    CHECK(preparedFor(weir(), "bell", scene.delivered, scene.game).plan().changes.empty());
    scene.deliver("2");
    CHECK(scene.in(weir()).problems.empty());
    CHECK(readText(scene.game / "props/bell/bell.glb") == "2");
    takeOut(scene.game, "bell");
    CHECK(treeOf(scene.game) == before);
}

TEST_CASE("what others put into the tables meanwhile stays, and the entry goes") {
    const Scene scene;
    scene.in(weir());
    writeFile(scene.game / "data/props.csv", readText(scene.game / "data/props.csv") + "12,rope\r\n");
    takeOut(scene.game, "bell");
    CHECK(readText(scene.game / "data/props.csv") == "id,name\r\n3,tub\r\n9,mast\r\n12,rope\r\n");
    // The same when it was brought up to date in between.
    scene.in(weir());
    writeFile(scene.game / "data/props.csv", readText(scene.game / "data/props.csv") + "13,oar\r\n");
    scene.deliver("2");
    scene.in(weir());
    takeOut(scene.game, "bell");
    CHECK(readText(scene.game / "data/props.csv") == "id,name\r\n3,tub\r\n9,mast\r\n12,rope\r\n13,oar\r\n");
}

TEST_CASE("a file and an entry that the game has under that name come back") {
    const Scene scene;
    writeFile(scene.game / "props/bell/bell.glb", "the game's own");
    writeFile(scene.game / "data/props.csv", "id,name\n7,the game's bell\n");
    const Tree before = treeOf(scene.game);
    const Plan plan = scene.in(weir());
    CHECK(plan.problems.empty());
    REQUIRE(plan.notes.size() == 1);
    CHECK_THAT(plan.notes[0], Contains("has an entry 7 already"));
    CHECK(readText(scene.game / "props/bell/bell.glb") == "1");
    CHECK(readText(scene.game / "data/props.csv") == "id,name\n7,bell\n");
    writeFile(scene.game / "data/props.csv", "id,name\n7,bell\n8,later\n");
    takeOut(scene.game, "bell");
    Tree wanted = before;
    wanted["data/props.csv"] = "id,name\n7,the game's bell\n8,later\n";
    CHECK(treeOf(scene.game) == wanted);
}

TEST_CASE("an entry gets a number of the game's that is free, keeps it, and leaves it") {
    const Scene scene;
    const auto sheet = readSheetText(
        sheetText("[deliver]\nkind = \"files\"\n[[table]]\npath = \"data/props.csv\"\nheader = \"id,name\"\n"
                  "key = \"name\"\nentry = \",{{name}}\"\nnumber = \"id\"\nnumbers = [3, 12]\n"));
    fs::remove_all(scene.delivered);
    writeAllOrNone(scene.delivered, {{"data/props.csv", "id,name\n3,bell\n"}});
    const Tree before = treeOf(scene.game);
    const Plan plan = scene.in(sheet);
    CHECK(plan.problems.empty());
    const auto change = std::ranges::find(plan.changes, "data/props.csv", &Change::path);
    REQUIRE(change != plan.changes.end());
    CHECK(change->details == std::vector<std::string>{"bell, number 4"});
    CHECK(readText(scene.game / "data/props.csv") == "id,name\r\n3,tub\r\n9,mast\r\n4,bell\r\n");
    // Others come and go; another delivery of the piece stays what the game knows it by.
    writeFile(scene.game / "data/props.csv", "id,name\r\n9,mast\r\n4,bell\r\n5,oar\r\n");
    writeAllOrNone(scene.delivered, {{"data/props.csv", "id,name\n3,bell\n3,gong\n"}});
    CHECK(scene.in(sheet).problems.empty());
    CHECK(readText(scene.game / "data/props.csv") == "id,name\r\n4,bell\r\n3,gong\r\n9,mast\r\n5,oar\r\n");
    takeOut(scene.game, "bell");
    Tree wanted = before;
    wanted["data/props.csv"] = "id,name\r\n9,mast\r\n5,oar\r\n";
    CHECK(treeOf(scene.game) == wanted);
    std::string full = "id,name\n";
    for (int i = 3; i <= 12; ++i) full += fmt::format("{},x{}\n", i, i);
    writeFile(scene.game / "data/props.csv", full);
    CHECK_THROWS_WITH(scene.in(sheet), Contains("all numbers from 3 to 12 are taken"));
    CHECK(readText(scene.game / "data/props.csv") == full);
}

TEST_CASE("a table that the game has not is made, and goes again") {
    const Scene scene;
    fs::remove_all(scene.game / "data");
    const Tree before = treeOf(scene.game);
    scene.in(weir("."));
    CHECK(readText(scene.game / "bell.glb") == "1"); // a point is the game's own folder
    CHECK(readText(scene.game / "data/props.csv") == "id,name\n7,bell\n");
    takeOut(scene.game, "bell");
    CHECK(treeOf(scene.game) == before);
}

TEST_CASE("what stands in the way of an installation is said, and nothing is changed") {
    const Scene scene;
    const Tree before = treeOf(scene.game);
    CHECK_THROWS_AS(scene.in(weir("../elsewhere")), Error);
    CHECK_THROWS_AS(preparedFor(weir(), "Bell of the quay", scene.delivered, scene.game), Error);
    CHECK_THROWS_AS(preparedFor(weir(), "bell", scene.folder / "nowhere", scene.game), Error);
    writeFile(scene.game / "data/props.json", "no JSON at all");
    CHECK_THROWS_WITH(scene.in(weir()), Contains("no JSON"));
    writeFile(scene.game / "data/props.json", before.at("data/props.json"));
    CHECK(treeOf(scene.game) == before);
    scene.in(weir());
    writeFile(scene.game / "props/bell/bell.glb", "changed by hand");
    CHECK(scene.in(weir()).problems.size() == 1);
    CHECK(scene.in(weir(), {.losesChanges = true}).problems.empty());
    // A sheet that says nothing of where is not installed.
    CHECK_FALSE(canInstall(readSheetText(sheetText("[deliver]\nkind = \"files\"\n[[text]]\npath = \"a\"\n"
                                                   "text = \"b\"\n"))));
    // A journal that lies is an error, and no crash.
    const fs::path journal = scene.game / journalPath("bell");
    const std::string text = readText(journal);
    const std::string form = "\"form\": \"csv\"", key = "\"key\": \"id\"", made = "\"made\": false";
    const auto lies = [&](const std::string& what, const std::string& other) {
        INFO(what << " as " << other);
        std::string wrong = text;
        const auto at = wrong.find(what);
        REQUIRE(at != std::string::npos);
        writeFile(journal, wrong.replace(at, what.size(), other));
        CHECK_THROWS_AS(takeOut(scene.game, "bell"), Error);
    };
    lies(form, "\"form\": \"poem\"");
    lies(form, "\"form\": 7");
    lies(form, "\"from\": \"csv\"");
    lies(key, "\"key\": \"\"");
    lies(made, "\"made\": \"yes\"");
    lies("\"after\": \"", "\"after\": \"zz");
    lies("\"data/props.csv\": {", "\"../props.csv\": {");
    lies("\"tables\": {", "\"tables\": {}, \"other\": {");
    writeFile(journal, text);
    takeOut(scene.game, "bell");
    CHECK_FALSE(fs::exists(journal));
}

} // namespace own_install_tests
