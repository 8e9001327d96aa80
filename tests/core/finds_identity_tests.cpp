// What models and habits of other people showed about "is this still true?", each as small as it can be.
#include "core/base/stamp.h"
#include "core/project/build_all.h"
#include "core/project/dependencies.h"
#include "support/finds.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace zl;

namespace {

constexpr const char* triangleGltf =
    R"({{"asset": {{"version": "2.0"}}, "scene": 0, "scenes": [{{"nodes": [0]}}], "nodes": [{{"mesh": 0}}],
"meshes": [{{"primitives": [{{"attributes": {{"POSITION": 0}}}}]}}],
"accessors": [{{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3"}}],
"bufferViews": [{{"buffer": 0, "byteLength": 36}}], "buffers": [{{"byteLength": 36, "uri": "{}"}}]}})";

std::string threeCorners(float scale) {
    const float numbers[9] = {0, 0, 0, scale, 0, 0, 0, scale, 0};
    return {reinterpret_cast<const char*>(numbers), sizeof numbers};
}

} // namespace

TEST_CASE(
    "files that a glTF names are looked for as they are on the disk, and two pieces never share a hash") {
    TemporaryFolder folder;
    folder.write("one x.bin", threeCorners(1)), folder.write("two x.bin", threeCorners(2));
    folder.write("a.gltf", fmt::format(fmt::runtime(triangleGltf), "one%20x.bin"));
    folder.write("b.gltf", fmt::format(fmt::runtime(triangleGltf), "two%20x.bin"));
    const auto project = projectOf(folder, {{"A", "a.gltf"}, {"B", "b.gltf"}});
    project::SourceCache sources;
    const auto a = sources.load(project, project.pieces[0]), b = sources.load(project, project.pieces[1]);
    CHECK(std::ranges::find(a.model.files, folder / "one x.bin") != a.model.files.end());
    CHECK(a.hash != b.hash);
    folder.write("one x.bin", threeCorners(5));
    const auto again = sources.load(project, project.pieces[0]);
    CHECK(again.hash != a.hash);
    CHECK(geometry::worldBounds(again.model).size().x == Approx(5));
}

TEST_CASE("pieces whose files all miss something are still told apart") {
    TemporaryFolder folder;
    const auto obj = [](double tall) {
        return fmt::format("mtllib gone.mtl\nv 0 0 0\nv 1 0 0\nv 0 {} 0\nf 1 2 3\n", tall);
    };
    folder.write("a.obj", obj(1)), folder.write("b.obj", obj(2));
    const auto project = projectOf(folder, {{"A", "a.obj"}, {"B", "b.obj"}});
    project::SourceCache sources;
    const auto first = sources.load(project, project.pieces[0]),
               second = sources.load(project, project.pieces[1]);
    CHECK(first.hash != 0);
    CHECK(first.hash != second.hash);
}

TEST_CASE("a material file and a picture that come later are a change, whatever their case") {
    TemporaryFolder folder;
    folder.write("a.obj", "mtllib Skin.mtl\nusemtl s\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    const auto project = projectOf(folder, {{"A", "a.obj"}});
    project::SourceCache sources;
    auto before = sources.load(project, project.pieces[0]);
    CHECK_FALSE(before.model.warnings.empty());
    folder.write("skin.mtl", "newmtl s\nmap_Kd s.png\n");
    auto after = sources.load(project, project.pieces[0]);
    CHECK(after.hash != before.hash);
    CHECK(after.model.images.empty());
    folder.write("S.PNG", png(2, 2));
    after = sources.load(project, project.pieces[0]);
    CHECK(after.model.images.size() == 1);
    CHECK(after.model.warnings.empty());
}

TEST_CASE("a record of a build holds only while nothing that it rests on is another") {
    TemporaryFolder folder;
    folder.write("a.obj", "mtllib a.mtl\no a\nusemtl s\nv 0 0 0\nv 1 0 0\nv 0 0 1\nv 0 1 0\nf 1 3 2\nf 1 2 "
                          "4\nf 1 4 3\nf 2 3 4\n");
    folder.write("a.mtl", "newmtl s\nKd 1 0 0\n");
    folder.write("b.obj", readText(folder / "a.obj") + "# another file of the same shape\n");
    project::Project project = projectOf(folder, {{"A", "a.obj"}});
    project.platforms = {"playmeadow"};
    auto& crossing = project.pieces[0].crossings[0];
    crossing.recipe = recipe::fromJson(
        {{{"step", "unit-and-up"}, {"params", {{"unit", "m"}, {"up", "y"}}}}, {{"step", "stand-on-floor"}}});
    using Outcome = project::BuiltCrossing::Outcome;
    const auto built = [&] {
        project::SourceCache sources;
        const auto results = project::buildAll(project, platform::loadSheets(project.folder()), sources,
                                               {folder / "out", 1, {}, {}});
        REQUIRE(results.size() == 1);
        INFO(results[0].words);
        return results[0].outcome;
    };
    REQUIRE(built() == Outcome::Built);
    CHECK(built() == Outcome::Unchanged);
    SECTION("another source") {
        project.pieces[0].sources[0].path = "b.obj";
    }
    SECTION("the source's own change") {
        folder.write("a.obj", readText(folder / "a.obj") + "#\n");
    }
    SECTION("a file that the source names") {
        folder.write("a.mtl", "newmtl s\nKd 0 1 0\n");
    }
    SECTION("the kind of files") {
        crossing.deliver["format"] = "obj";
    }
    SECTION("the credit") {
        project.pieces[0].sources[0].author = "Mira Quill";
    }
    SECTION("the recipe") {
        crossing.recipe.push_back({"turn", true, {{"y", 90}}});
    }
    SECTION("the piece's own recipe") {
        project.pieces[0].recipe.push_back({"turn", true, {{"y", 90}}});
    }
    SECTION("the sheet") {
        std::filesystem::create_directories(folder / "platforms");
        std::string text = readText(sheet("playmeadow")->file);
        folder.write("platforms/own.toml", text.replace(text.find("16000"), 5, "15000"));
    }
    SECTION("a delivered file") {
        writeFile(folder / "out/playmeadow/a/pack.json", "{}");
    }
    SECTION("a record that is JSON but none") {
        for (const auto& file : std::filesystem::directory_iterator(folder / "out/.zest-loom"))
            writeFile(file.path(), "[1, {\"key\": 5}]");
    }
    SECTION("a record of another form") {
        for (const auto& file : std::filesystem::directory_iterator(folder / "out/.zest-loom"))
            writeFile(file.path(), "{\"key\": 5, \"inputs\": [], \"outputs\": 3}");
    }
    CHECK(built() == Outcome::Built);
    CHECK(built() == Outcome::Unchanged);
}

TEST_CASE("results are told apart by all that they rest on") {
    TemporaryFolder folder;
    project::Project project = projectOf(folder, {{"A", "a.obj"}});
    project.yardsticks = {{"gate", "gate.obj", "", ""}};
    auto& crossing = project.pieces[0].crossings[0];
    crossing.recipe = recipe::fromJson({{{"step", "match-yardstick"}}});
    platform::Sheet own = *sheet("playmeadow");
    const auto keys = [&] {
        Stamps stamps;
        const auto all = dependenciesOf(project, project.pieces[0], own);
        return std::pair(all.shapeKey(stamps), all.deliveryKey(stamps));
    };
    const auto before = keys();
    CHECK(keys() == before);
    SECTION("finish") {
        crossing.deliver["finish"] = "gloss";
        CHECK(keys().first == before.first);
        CHECK(keys().second != before.second);
    }
    SECTION("format") {
        crossing.deliver["format"] = "obj";
        CHECK(keys().second != before.second);
    }
    SECTION("a yardstick's name") {
        project.yardsticks[0].name = "door";
        CHECK(keys().first != before.first);
    }
    SECTION("the sheet's front") {
        own.front = "-X";
        CHECK(keys().first != before.first);
    }
    SECTION("a yardstick that nothing measures by") {
        crossing.recipe.clear();
        const auto without = keys();
        project.yardsticks[0].name = "door";
        CHECK(keys() == without);
    }
}

TEST_CASE("a step that does not read the sheet shares its result between platforms, one that does does not") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(8, 6)));
    recipe::EvaluationCache cache;
    const recipe::Recipe weld{{"weld-and-clean", true, nlohmann::json::object()}},
        floor{{"stand-on-floor", true, nlohmann::json::object()}};
    recipe::evaluate(model, 7, weld, sheet("hearthboard").get(), &cache);
    CHECK(recipe::evaluate(model, 7, weld, sheet("lampwright").get(), &cache).outcomes[0].fromCache);
    recipe::evaluate(model, 7, floor, sheet("hearthboard").get(), &cache);
    CHECK_FALSE(recipe::evaluate(model, 7, floor, sheet("lampwright").get(), &cache).outcomes[0].fromCache);
}
