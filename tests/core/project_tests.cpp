// Projects on disk: what is kept, what is refused, what is read again, and building everything at once.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/project/autosave.h"
#include "core/project/unsaved_place.h"
#include "core/project/build_all.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <fstream>
#include <set>

using namespace zl;
using project::Permission;
using Outcome = project::BuiltCrossing::Outcome;

namespace {

/// An OBJ box, so many metres tall, standing at the origin.
std::string boxObj(double height) {
    const Model model = shapes::box({-0.01, 0, -0.01}, {0.01, height, 0.01});
    return formats::formatToWrite("a.obj").write(model, {.name = "a"}, nullptr)[0].bytes;
}

/// A project of one figure that fits the table once its unit is said.
project::Project fair(const TemporaryFolder& folder, const std::vector<std::string>& names = {"Bell"}) {
    project::Project fair;
    fair.name = "Fair";
    fair.file = folder / "fair.zestloom";
    fair.platforms = {"hearthboard"};
    for (const std::string& name : names) {
        const std::string file = fileNameFrom(name) + ".obj";
        folder.write(file, boxObj(0.03));
        project::Piece piece;
        piece.name = name;
        piece.sources = {{file, "Mira Quill", "CC BY 4.0", Permission::Allowed}};
        piece.recipe =
            recipe::fromJson({{{"step", "unit-and-up"}, {"params", {{"unit", "m"}, {"up", "y"}}}}});
        piece.crossings = {
            {"hearthboard", recipe::fromJson({{{"step", "collider-box"}}}), {{"finish", "gloss"}}}};
        fair.pieces.push_back(piece);
    }
    return fair;
}

std::vector<project::BuiltCrossing> built(const project::Project& project, const TemporaryFolder& folder,
                                          int jobs = 1) {
    project::SourceCache sources;
    project::BuildAllOptions options;
    options.out = folder / "out";
    options.jobs = jobs;
    return project::buildAll(project, platform::loadSheets(project.folder()), sources, options);
}

std::string refusal(const nlohmann::json& json) {
    try {
        project::fromJson(json, "fair.zestloom");
    } catch (const Error& error) {
        return error.whole();
    }
    return {};
}

} // namespace

TEST_CASE("everything that a project holds comes back from its file") {
    TemporaryFolder folder;
    project::Project whole = fair(folder, {"Bell", "Kiosk"});
    whole.platforms = {"playmeadow", "hearthboard"};
    whole.yardsticks = {{"Gate", "gate.obj", "cm", "z"}, {"Barrel", "deep/barrel.stl", "", ""}};
    whole.pieces[0].sources.push_back({"rope.obj", "", "", Permission::NotAllowed});
    whole.pieces[1].crossings.push_back({"playmeadow", {}, {{"format", "obj"}}});
    project::save(whole);
    const auto back = project::load(whole.file);
    CHECK(back.name == "Fair");
    CHECK(back.platforms == whole.platforms);
    REQUIRE(back.pieces.size() == 2);
    CHECK(back.pieces[0].sources[1].permission == Permission::NotAllowed);
    CHECK(back.pieces[1].on("playmeadow")->deliver["format"] == "obj");
    CHECK(back.pieces[0].on("hearthboard")->deliver["finish"] == "gloss");
    REQUIRE(back.yardsticks.size() == 2);
    CHECK(back.yardsticks[0].up == "z");
    CHECK(back.yardsticks[1].path == "deep/barrel.stl");
    CHECK(project::toJson(back) == project::toJson(whole));
    CHECK(readText(whole.file).back() == '\n'); // kind to version control
}

TEST_CASE("a project file is refused with the place and what was expected there") {
    const auto good = nlohmann::json(project::toJson(fair(TemporaryFolder())));
    REQUIRE(refusal(good).empty());
    const auto with = [&](const char* pointer, const nlohmann::json& value) {
        auto json = good;
        json[nlohmann::json::json_pointer(pointer)] = value;
        return refusal(json);
    };
    CHECK(with("/version", 99).find("newer") != std::string::npos);
    CHECK_FALSE(with("/format", "another-format").empty());
    CHECK_FALSE(with("/version", "one").empty());
    CHECK_FALSE(with("/pieces", "none").empty());
    CHECK_FALSE(with("/platforms", 3).empty());
    CHECK(with("/pieces/0/name", 3).find("name") != std::string::npos);
    CHECK(with("/pieces/0/sources/0/permission", "maybe").find("ask-first") != std::string::npos);
    CHECK_FALSE(with("/pieces/0/sources/0/path", "").empty());
    CHECK(with("/pieces/0/recipe/0/step", "fly").find("fly") != std::string::npos);
    CHECK(with("/pieces/0/crossings/0/recipe", {{{"step", "turn"}, {"params", {{"x", "far"}}}}}).find("x") !=
          std::string::npos);
    CHECK_FALSE(refusal(nlohmann::json::array()).empty());
    CHECK_FALSE(refusal(nullptr).empty());
}

TEST_CASE("an autosave counts only while it goes on from the very file that is there") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    project::save(whole);
    const auto aside = project::autosavePath(whole.file);
    CHECK(aside.parent_path() == whole.file.parent_path());
    CHECK_FALSE(project::hasUnsavedWork(whole.file));
    project::autosave(whole, project::Documents(), aside);
    CHECK_FALSE(project::hasUnsavedWork(whole.file)); // nothing in it is new
    project::Project later = whole;
    later.name = "later";
    project::autosave(later, project::Documents(), aside);
    CHECK(project::hasUnsavedWork(whole.file));
    CHECK(project::load(aside).name == "later");
    whole.name = "saved by somebody else";
    project::save(whole);
    CHECK_FALSE(project::hasUnsavedWork(whole.file)); // stale, whatever the clock says
    folder.write(aside.filename().string(), "{}");
    CHECK_FALSE(project::hasUnsavedWork(whole.file));
}

TEST_CASE("a save keeps the version before, and only where it was another") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    project::save(whole);
    CHECK_FALSE(std::filesystem::exists(project::backupPath(whole.file)));
    const std::string first = whole.name;
    whole.name = "second";
    project::save(whole);
    CHECK(project::fromJson(nlohmann::json::parse(readText(project::backupPath(whole.file))), whole.file)
              .name == first);
    project::save(whole);
    CHECK(project::fromJson(nlohmann::json::parse(readText(project::backupPath(whole.file))), whole.file)
              .name == first);
    writeFile(whole.file, "{ broken");
    try {
        project::load(whole.file);
        FAIL("a broken project was read");
    } catch (const Error& error) {
        CHECK(error.mend().find(".before") != std::string::npos);
    }
}

TEST_CASE("unsaved work that no program holds is found, whatever process number its program had") {
    TemporaryFolder folder;
    project::Project fresh;
    auto own = project::UnsavedPlace::madeIn(folder / "kept");
    project::autosave(fresh, project::Documents(), own.autosave());
    CHECK(project::unsavedIn(folder / "kept").empty()); // it is held
    CHECK_FALSE(project::UnsavedPlace::takenUp(own.autosave()));
    auto second = project::UnsavedPlace::madeIn(folder / "kept");
    CHECK(second.autosave() != own.autosave());

    const auto left = own.autosave();
    { const auto ends = std::move(own); }
    CHECK(project::unsavedIn(folder / "kept") == std::vector{left});
    auto taken = project::UnsavedPlace::takenUp(left);
    REQUIRE(taken);
    CHECK(project::unsavedIn(folder / "kept").empty());
    taken.reset();
    CHECK(project::unsavedIn(folder / "kept") == std::vector{left});
}

TEST_CASE("a number beyond all bounds in a project is an error that names the file") {
    TemporaryFolder folder;
    const auto file = folder.write("far.zestloom", R"({"format": "zest-loom-project", "version": 1e999})");
    CHECK_THROWS_AS(project::load(file), Error);
}

TEST_CASE("names of pieces stay apart, credits name every source, warnings what is not cleared") {
    TemporaryFolder folder;
    project::Project whole = fair(folder, {"Bell", "Bell 2"});
    CHECK(whole.freeName("Bell") == "Bell 3");
    CHECK(whole.freeName("Kiosk") == "Kiosk");
    CHECK_FALSE(whole.freeName("").empty());
    project::Piece& bell = whole.pieces[0];
    CHECK(project::permissionWarnings(bell).empty());
    CHECK(project::creditOf(bell).find("Mira Quill") != std::string::npos);
    CHECK(project::creditOf(bell).find("CC BY 4.0") != std::string::npos);
    bell.sources.push_back({"rope.obj", "Tam Orrel", "", Permission::AskFirst});
    bell.sources.push_back({"knot.obj", "", "", Permission::OwnWork});
    CHECK(project::permissionWarnings(bell).size() == 1);
    CHECK(project::permissionWarnings(bell)[0].find("rope.obj") != std::string::npos);
    CHECK(project::creditOf(bell).find("Tam Orrel") != std::string::npos);
}

TEST_CASE("the recipe on a platform is the piece's own, then the crossing's") {
    const TemporaryFolder folder;
    const project::Project whole = fair(folder);
    const auto recipe = project::recipeFor(whole.pieces[0], "hearthboard");
    REQUIRE(recipe.size() == 2);
    CHECK(recipe[0].step == "unit-and-up");
    CHECK(recipe[1].step == "collider-box");
    CHECK(project::recipeFor(whole.pieces[0], "mudhaul").size() == 1);
    project::Piece piece = whole.pieces[0];
    const project::Crossing* made = &piece.setUpOn("mudhaul");
    CHECK(piece.on("mudhaul") == made);
    CHECK(piece.crossings.size() == 2);
    piece.setUpOn("mudhaul");
    CHECK(piece.crossings.size() == 2);
}

TEST_CASE("sources are read once, and again when they change") {
    TemporaryFolder folder;
    const project::Project whole = fair(folder);
    project::SourceCache sources;
    const auto first = sources.load(whole, whole.pieces[0]);
    const auto second = sources.load(whole, whole.pieces[0]);
    CHECK(first.hash == second.hash);
    CHECK(first.model.meshes[0] == second.model.meshes[0]); // the very same, not read again
    folder.write("bell.obj", boxObj(0.04));
    const auto changed = sources.load(whole, whole.pieces[0]);
    CHECK(changed.hash != first.hash);
    CHECK(geometry::worldBounds(changed.model).size().y == Approx(0.04));
    project::Piece none;
    none.name = "Nothing";
    CHECK_THROWS_AS(sources.load(whole, none), Error);
}

TEST_CASE("a changed material file or picture is a changed source") {
    TemporaryFolder folder;
    folder.write("a.mtl", "newmtl red\nKd 1 0 0\n");
    const auto path = folder.write("a.obj", "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl red\nf 1 2 3\n");
    project::SourceCache sources;
    const auto first = sources.load(path);
    folder.write("a.mtl", "newmtl red\nKd 0.25 0 0\n");
    const auto second = sources.load(path);
    CHECK(first.hash != second.hash);
    CHECK(second.model.materials[0].baseColour.r < first.model.materials[0].baseColour.r);
}

TEST_CASE("two sources of a piece stand side by side in one model") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    folder.write("other.obj", "o knob\nv 0 0.1 0\nv 1 0.1 0\nv 0 0.2 0\nf 1 2 3\n");
    whole.pieces[0].sources.push_back({"other.obj", "", "", Permission::OwnWork});
    project::SourceCache sources;
    const auto loaded = sources.load(whole, whole.pieces[0]);
    CHECK(objectCount(loaded.model) == 2);
    CHECK(triangleCount(loaded.model) == 13);
    CHECK(std::ranges::count_if(loaded.model.files, [](const auto& file) { return exists(file); }) == 2);
}

TEST_CASE("building everything: built once, left alone, built again when anything it rests on changes") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    whole.yardsticks = {{"Gate", "gate.obj", "m", "y"}};
    folder.write("gate.obj", boxObj(2));
    project::save(whole);
    const auto once = [&] {
        const auto results = built(whole, folder);
        REQUIRE(results.size() == 1);
        INFO(results[0].words);
        CHECK(results[0].outcome != Outcome::Failed);
        return results[0].outcome;
    };
    CHECK(once() == Outcome::Built);
    CHECK(once() == Outcome::Unchanged);
    SECTION("a parameter") {
        whole.pieces[0].crossings[0].recipe[0].params["inset"] = 0.001;
        CHECK(once() == Outcome::Built);
    }
    SECTION("the finish") {
        whole.pieces[0].crossings[0].deliver["finish"] = "matte";
        CHECK(once() == Outcome::Built);
    }
    SECTION("the source's bytes") {
        folder.write("bell.obj", boxObj(0.031));
        CHECK(once() == Outcome::Built);
    }
    SECTION("who made it") {
        whole.pieces[0].sources[0].author = "Tam Orrel";
        CHECK(once() == Outcome::Built);
    }
    SECTION("a delivered file that somebody deleted") {
        std::size_t removed = 0;
        for (const auto& entry : std::filesystem::recursive_directory_iterator(folder / "out"))
            if (entry.path().extension() == ".obj" && removed == 0)
                removed += std::filesystem::remove(entry.path());
        REQUIRE(removed == 1);
        CHECK(once() == Outcome::Built);
    }
    SECTION("a record that is no record") {
        for (const auto& entry : std::filesystem::directory_iterator(folder / "out/.zest-loom"))
            writeFile(entry.path(), "{\"key\": [");
        CHECK(once() == Outcome::Built);
    }
    CHECK(once() == Outcome::Unchanged);
}

TEST_CASE("a yardstick that changed builds again what is measured by it") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    whole.yardsticks = {{"Gate", "gate.obj", "m", "y"}};
    folder.write("gate.obj", boxObj(0.03));
    whole.pieces[0].recipe = recipe::fromJson(
        {{{"step", "unit-and-up"}, {"params", {{"unit", "m"}, {"up", "y"}}}}, {{"step", "match-yardstick"}}});
    CHECK(built(whole, folder)[0].outcome == Outcome::Built);
    CHECK(built(whole, folder)[0].outcome == Outcome::Unchanged);
    SECTION("its file") {
        folder.write("gate.obj", boxObj(0.035));
        CHECK(built(whole, folder)[0].outcome == Outcome::Built);
    }
    SECTION("its unit") {
        whole.yardsticks[0].unit = "in";
        folder.write("gate.obj", boxObj(1));
        CHECK(built(whole, folder)[0].outcome != Outcome::Unchanged);
        CHECK(built(whole, folder)[0].outcome == Outcome::Unchanged);
        whole.yardsticks[0].unit = "cm"; // the same file means another length now
        CHECK(built(whole, folder)[0].outcome != Outcome::Unchanged);
    }
}

TEST_CASE("of two pieces whose names make one folder the first has it, and the other says so") {
    TemporaryFolder folder;
    const project::Project whole = fair(folder, {"Bell", "bell!", "Lamp"});
    for (const int jobs : {1, 2}) {
        const auto results = built(whole, folder, jobs);
        REQUIRE(results.size() == 3);
        CHECK(results[0].outcome == (jobs == 1 ? Outcome::Built : Outcome::Unchanged));
        CHECK(results[1].outcome == Outcome::Failed);
        CHECK(results[1].words.find("\"Bell\"") != std::string::npos);
        CHECK(results[2].outcome == (jobs == 1 ? Outcome::Built : Outcome::Unchanged)); // the rest goes on
    }
}

TEST_CASE("a build file cannot be made to say more by a name with a line break") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    whole.name = "Fair\nrule evil\n  command = true";
    project::BuildAllOptions options;
    options.out = folder / "out";
    const auto sheets = platform::loadSheets();
    CHECK_THROWS_AS(project::ninjaFile(whole, sheets, options, "zest-loom-cli"), Refused);
    whole.name = "Fair";
    CHECK_NOTHROW(project::ninjaFile(whole, sheets, options, "zest-loom-cli"));
    whole.pieces[0].name = "Bell\n";
    CHECK_THROWS_AS(project::ninjaFile(whole, sheets, options, "zest-loom-cli"), Refused);
}

TEST_CASE("a build file reruns what is measured by a yardstick when that changes") {
    TemporaryFolder folder;
    project::Project whole = fair(folder);
    whole.yardsticks = {{"Gate", "gate.obj", "m", "y"}};
    project::BuildAllOptions options;
    options.out = folder / "out";
    const auto sheets = platform::loadSheets();
    const auto names = [&] {
        return project::ninjaFile(whole, sheets, options, "loom").find("gate.obj") != std::string::npos;
    };
    CHECK_FALSE(names());
    whole.pieces[0].recipe.push_back({"match-yardstick", true});
    CHECK(names());
}

TEST_CASE("only the asked pieces and platforms are built, and failures say why") {
    TemporaryFolder folder;
    project::Project whole = fair(folder, {"Bell", "Lamp", "Tower"});
    whole.pieces[1].sources[0].path = "gone.obj";
    folder.write("tower.obj", boxObj(5));
    const auto all = built(whole, folder, 2);
    REQUIRE(all.size() == 3);
    CHECK(all[0].outcome == Outcome::Built);
    CHECK(all[1].outcome == Outcome::Failed);
    CHECK(all[1].words.find("gone.obj") != std::string::npos);
    CHECK(all[2].outcome == Outcome::DoesNotFit);
    CHECK_FALSE(all[2].words.empty());
    project::SourceCache sources;
    project::BuildAllOptions options;
    options.out = folder / "other";
    options.pieces = {"Bell"};
    CHECK(project::buildAll(whole, platform::loadSheets(), sources, options).size() == 1);
    options.platforms = {"mudhaul"};
    CHECK(project::buildAll(whole, platform::loadSheets(), sources, options).empty());
}

TEST_CASE("building stops when asked, and what was built by then is whole") {
    TemporaryFolder folder;
    const project::Project whole = fair(folder, {"A", "B", "C", "D"});
    std::atomic<bool> cancel{false};
    const Progress progress(
        [&](double fraction, std::string_view) {
            if (fraction > 0.3) cancel = true;
        },
        &cancel);
    project::SourceCache sources;
    project::BuildAllOptions options;
    options.out = folder / "out";
    options.jobs = 1;
    CHECK_THROWS_AS(project::buildAll(whole, platform::loadSheets(), sources, options, progress), Cancelled);
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder / "out"))
        if (entry.is_regular_file()) CHECK(entry.path().string().find(".part") == std::string::npos);
}

TEST_CASE("a project of version 1 opens as it was meant, and is saved as this version") {
    const auto file = std::filesystem::path(ZEST_LOOM_ROOT) / "tests/data/bergamot-quay-version-1.zestloom";
    const project::Project old = project::load(file);
    REQUIRE(old.pieces.size() == 5);
    CHECK(old.piece("Tide bell")->on("hearthboard")->deliver == nlohmann::ordered_json{{"finish", "satin"}});
    CHECK(old.piece("Press kiosk")->on("hearthboard")->deliver == nlohmann::ordered_json{{"finish", "wood"}});
    CHECK(old.piece("Tide bell")->on("playmeadow")->deliver.empty());
    CHECK(old.piece("Tide bell")->on("playmeadow")->recipe.size() == 5);
    CHECK(old.yardsticks.size() == 1);
    const auto json = project::toJson(old);
    CHECK(json["version"] == 2);
    const auto again = project::fromJson(nlohmann::json::parse(json.dump()), file);
    CHECK(project::toJson(again) == json);
    // A recipe that measured by a yardstick named it by a plain text, or the first by none.
    const auto recipe = recipe::fromJson({{{"step", "match-yardstick"}, {"params", {{"yardstick", "Gate"}}}},
                                          {{"step", "match-yardstick"}, {"params", {{"yardstick", ""}}}}});
    CHECK(recipe[0].params["yardstick"] == nlohmann::ordered_json{{"yardstick", "Gate"}});
    CHECK(recipe[1].params["yardstick"] == nlohmann::ordered_json{{"yardstick", ""}});
}
