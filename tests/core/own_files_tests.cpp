// Deliveries that a sheet describes by itself.
#include "core/base/error.h"
#include "core/base/archive.h"
#include "core/base/clock.h"
#include "core/deliver/own_files.h"
#include "core/deliver/placed_for.h"
#include "core/files/files.h"
#include "core/formats/format.h"
#include "core/motion/still.h"
#include "support/bodies.h"
#include "support/quickest.h"
#include "support/rich_model.h"
#include "support/sheet_text.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <set>

using namespace zl;
using Catch::Matchers::Contains;

namespace own_files_tests {

std::map<std::string, std::string> made(const platform::Sheet& sheet, const Model& model,
                                        const nlohmann::json& params = nlohmann::json::object(),
                                        const std::string& name = "Tide bell") {
    std::map<std::string, std::string> out;
    for (auto& file : deliver::deliverableFor(sheet, params)
                          ->make(model, sheet, {.name = name, .credit = "by \"Odd\" Fennel"}, {}))
        CHECK(out.emplace(file.name, file.bytes).second);
    return out;
}

std::map<std::string, std::string> written(const std::vector<OutFile>& files) {
    std::map<std::string, std::string> out;
    for (const OutFile& file : files) out[file.name] = file.bytes;
    return out;
}

std::vector<std::string> names(const std::map<std::string, std::string>& files) {
    std::vector<std::string> out;
    for (const auto& [name, bytes] : files) out.push_back(name);
    return out;
}

/// Two boxes side by side in two materials, one of them with a picture.
Model pair() {
    Model model = shapes::box({-1, 0, -1}, {1, 1, 1});
    model.nodes[0].name = "Left crate";
    Model other = shapes::box({2, 0, -1}, {3, 2, 1});
    model.nodes.push_back({"Right crate", -1, glm::dmat4(1.0), 1});
    auto right = *other.meshes[0];
    right.uvSets = {std::vector<glm::vec2>(right.vertexCount(), glm::vec2(0.5f))};
    right.runs[0].material = 0;
    model.meshes.push_back(std::make_shared<const Mesh>(right));
    auto left = *model.meshes[0];
    left.runs[0].material = 1;
    model.meshes[0] = std::make_shared<const Mesh>(left);
    model.images = {texture::pictureFromBytes("oak.png", png(4, 4))};
    model.materials = {{.name = "oak"}, {.name = "iron"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    return model;
}

TEST_CASE("a figure for the table is the OBJ writer's files and a description, letter for letter") {
    const auto sheet = ::sheet("hearthboard");
    Model model = richModel();
    const formats::WriteOptions options{"tide-bell", 0.025, Up::Y, "+Z"};
    auto expected = written(formats::writeObj(model, options, nullptr));
    expected["tide-bell.table.json"] = R"({
  "format": "table-figure",
  "version": 1,
  "name": "Tide bell",
  "model": "tide-bell.obj",
  "pictures": [
    "bronze.png"
  ],
  "collider": null,
  "finish": "wood",
  "unit": {
    "name": "u",
    "millimetres": 25.0
  },
  "scale": 1.0,
  "credit": "by \"Odd\" Fennel"
}
)";
    CHECK(made(*sheet, model, {{"finish", "wood"}}) == expected);
    model.colliders.push_back({"b", "box", model.meshes[0], glm::dmat4(1.0)});
    const auto withBody = made(*sheet, model);
    REQUIRE(withBody.contains("tide-bell-collider.obj"));
    CHECK(withBody.at("tide-bell-collider.obj").starts_with("o b\nv "));
    CHECK_THAT(withBody.at("tide-bell.table.json"),
               Contains("\"collider\": \"tide-bell-collider.obj\"") && Contains("\"finish\": \"matte\""));
    CHECK_THROWS_WITH(made(*sheet, model, {{"finish", "glossy"}}), Contains("there is no finish \"glossy\""));
    CHECK_THROWS_AS(made(*sheet, model, {{"finnish", "wood"}}), Error);
}

TEST_CASE("a pack of objects is each alone, by GLB without and by OBJ with its picture's name") {
    const auto sheet = ::sheet("playmeadow");
    const Model model = pair();
    const auto glb = made(*sheet, model);
    CHECK(names(glb) ==
          std::vector<std::string>{"left-crate.glb", "pack.json", "pictures/oak.png", "right-crate.glb"});
    CHECK(glb.at("pack.json") == R"({
  "format": "object-pack",
  "version": 1,
  "name": "Tide bell",
  "unitMetres": 1.0,
  "files": "glb",
  "objects": [
    {
      "name": "Left crate",
      "picture": "",
      "file": "left-crate.glb"
    },
    {
      "name": "Right crate",
      "picture": "pictures/oak.png",
      "file": "right-crate.glb"
    }
  ],
  "credit": "by \"Odd\" Fennel"
}
)");
    CHECK(glb.at("right-crate.glb").find("oak.png") == std::string::npos);
    const auto obj = made(*sheet, model, {{"format", "obj"}});
    CHECK(names(obj) == std::vector<std::string>{"left-crate.mtl", "left-crate.obj", "pack.json",
                                                 "pictures/oak.png", "right-crate.mtl", "right-crate.obj"});
    CHECK_THAT(obj.at("right-crate.mtl"), Contains("map_Kd pictures/oak.png\n"));
    CHECK_THAT(obj.at("right-crate.obj"), Contains("v 8 ")); // 2 m in quarters
}

TEST_CASE("files of a level and of a truck are their writers' own") {
    const Model model = richModel();
    const auto level = ::sheet("lampwright");
    auto expected = written(formats::writeLevelText(model, {"tide-bell", 1.0, Up::Z, "+X"}, nullptr));
    auto files = made(*level, model);
    CHECK_THAT(files.at("tide-bell.scene.json"), Contains("\"importerMultiplies\": 40.0"));
    files.erase("tide-bell.scene.json");
    CHECK(files == expected);
    const auto yard = ::sheet("mudhaul");
    expected = written(deliver::bakedCollada(*yard, model, "tide-bell"));
    files = made(*yard, model);
    CHECK_THAT(files.at("tide-bell.truck.json"), Contains("\"pictures\": [\n    \"bronze.png\"\n  ],"));
    files.erase("tide-bell.truck.json");
    CHECK(files == expected);
}

TEST_CASE("outputs are written for objects and materials, in a frame of their own, beside pictures apart") {
    const auto sheet = readSheetText(sheetText(R"([deliver]
kind = "files"
[[file]]
path = "parts/{n}-{object:capitals}.stl"
format = "stl"
each = "object"
without = ["Right*"]
[[file]]
path = "worn/{material}.obj"
format = "obj"
each = "material"
picture-folder = "textures"
[[file]]
path = "{name:underscores}.obj"
format = "obj"
metres = 1
up = "Y"
picture-folder = "textures"
[[text]]
path = "{name}.cfg"
text = "{{#materials}}{{underscores}}={{#pictures}}{{path}}{{/pictures}}\n{{/materials}}x={{bounds.size.x}}\n"
[[text]]
path = "notes/{object}.txt"
each = "object"
text = "{{object.name}} of {{name}}: {{object.triangles}}"
[[text]]
path = "{file}.about"
each = "picture"
text = "{{picture.file}}"
)"));
    const auto files = made(sheet, pair());
    CHECK(names(files) == std::vector<std::string>{"notes/left-crate.txt", "notes/right-crate.txt",
                                                   "parts/1-LeftCrate.stl", "textures/oak.png",
                                                   "textures/oak.png.about", "tide-bell.cfg", "tide_bell.mtl",
                                                   "tide_bell.obj", "worn/iron.mtl", "worn/iron.obj",
                                                   "worn/oak.mtl", "worn/oak.obj"});
    CHECK_THAT(files.at("worn/oak.mtl"), Contains("map_Kd ../textures/oak.png\n"));
    CHECK_THAT(files.at("tide_bell.mtl"), Contains("map_Kd textures/oak.png\n"));
    CHECK_THAT(files.at("tide_bell.obj"), Contains("v 3 2 1\n")); // metres, Y up
    CHECK_THAT(files.at("worn/oak.obj"), Contains(" 200\n"));     // centimetres, Z up
    CHECK(files.at("tide-bell.cfg") == "oak=textures/oak.png\niron=\nx=200\n");
    CHECK(files.at("notes/right-crate.txt") == "Right crate of Tide bell: 12");
    CHECK(files.at("textures/oak.png.about") == "oak.png");
}

TEST_CASE("a still model has no bones, and a body is a file of its own") {
    const auto sheet = readSheetText(sheetText(R"([deliver]
kind = "files"
[[file]]
path = "{name}.glb"
format = "glb"
still = true
[[file]]
path = "{name}-body.stl"
format = "stl"
what = "body"
)"));
    Model model = richModel();
    auto files = made(sheet, model);
    CHECK(names(files) == std::vector<std::string>{"tide-bell.glb"});
    CHECK(files.at("tide-bell.glb").find("\"skins\"") == std::string::npos);
    model.colliders.push_back({"b", "box", model.meshes[0], glm::dmat4(1.0)});
    CHECK(names(made(sheet, model)) == std::vector<std::string>{"tide-bell-body.stl", "tide-bell.glb"});
}

TEST_CASE("all goes into one archive where the sheet wants that") {
    for (const std::string ending : {"zip", "7z"}) {
        const auto sheet =
            readSheetText(sheetText("[deliver]\nkind = \"files\"\npacked = \"out/{name}." + ending + R"("
[[file]]
path = "{name}.obj"
format = "obj"
[[text]]
path = "about/{name}.txt"
text = "{{name}}"
)"));
        const auto files = made(sheet, pair());
        REQUIRE(names(files) == std::vector<std::string>{"out/tide-bell." + ending});
        const TemporaryFolder folder;
        const auto held = files::filesIn(folder.write("x." + ending, files.begin()->second));
        std::set<std::string> inside;
        for (const auto& entry : held->list()) inside.insert(entry.path);
        CHECK(inside ==
              std::set<std::string>{"tide-bell.obj", "tide-bell.mtl", "oak.png", "about/tide-bell.txt"});
        CHECK(held->open("about/tide-bell.txt").text() == "Tide bell");
    }
}

TEST_CASE("a sheet's files are refused by line: wrong places, words and questions, paths that climb out") {
    const auto why = [](const std::string& sections) -> std::string {
        try {
            readSheetText(sheetText("[deliver]\nkind = \"files\"\n" + sections));
        } catch (const Error& error) {
            return error.whole();
        }
        return "nothing";
    };
    CHECK_THAT(why("[[file]]\npath = \"{nmae}.obj\"\nformat = \"obj\"\n"),
               Contains("weir.toml:15") && Contains("\"name\" perhaps"));
    CHECK_THAT(why("[[file]]\npath = \"{object}.obj\"\nformat = \"obj\"\n"), Contains("place in a path"));
    CHECK_THAT(why("[[file]]\npath = \"{name:capitels}.obj\"\nformat = \"obj\"\n"),
               Contains("\"capitals\" perhaps"));
    CHECK_THAT(why("[[file]]\npath = \"../{name}.obj\"\nformat = \"obj\"\n"), Contains("leads out"));
    CHECK_THAT(why("[[file]]\npath = \"/etc/{name}.obj\"\nformat = \"obj\"\n"), Contains("leads out"));
    CHECK_THAT(why("[[file]]\npath = \"{name}.obj\"\nformat = \"objj\"\n"), Contains("\"obj\" perhaps"));
    CHECK_THAT(why("[[file]]\npath = \"a.obj\"\nformat = \"obj\"\nwhen = \"finish=x\"\n"),
               Contains("nothing is asked"));
    CHECK_THAT(why("[[text]]\npath = \"a.txt\"\nfrom = \"../../etc/passwd\"\n"), Contains("leads out"));
    CHECK_THAT(why("[[text]]\npath = \"a.txt\"\ntext = \"{{#a}}\"\n"), Contains("left open"));
    CHECK_THAT(why("[[ask]]\nname = \"name\"\nlabel = \"x\"\n"), Contains("no question can be called"));
    CHECK_THAT(why(""), Contains("no file is named"));
    CHECK_THAT(why("[[file]]\npath = \"a.obj\"\nformat = \"obj\"\nfolder = \"x\"\n"),
               Contains("not known here"));
    const auto climbing = readSheetText(
        sheetText("[deliver]\nkind = \"files\"\n[[text]]\npath = \"{name:as-it-is}.txt\"\ntext = \"x\"\n"));
    CHECK(names(made(climbing, pair(), nlohmann::json::object(), "../../up/.x")) ==
          std::vector<std::string>{"_.._up_.x.txt"});
    const auto twice = readSheetText(sheetText(
        "[deliver]\nkind = \"files\"\n[[text]]\npath = \"a.txt\"\neach = \"object\"\ntext = \"x\"\n"));
    CHECK_THROWS_WITH(made(twice, pair()), Contains("written twice"));
}

TEST_CASE("lines of a text end as the sheet wants it, each once") {
    const auto of = [](const std::string& how) {
        return made(readSheetText(
                        sheetText("[deliver]\nkind = \"files\"\n[[text]]\npath = \"a.txt\"\n" + how)),
                    pair())
            .at("a.txt");
    };
    const std::string two = "text = \"\"\"a\n{{#objects}}\n{{name}}\n{{/objects}}\nb\\r\nc\"\"\"\n";
    CHECK(of(two) == "a\nLeft crate\nRight crate\nb\r\nc");
    CHECK(of("lines = \"unix\"\n" + two) == of(two));
    CHECK(of("lines = \"windows\"\n" + two) == "a\r\nLeft crate\r\nRight crate\r\nb\r\nc");
    CHECK_THROWS_WITH(of("lines = \"windos\"\n" + two), Contains("\"windos\""));
}

TEST_CASE("a text for each of two thousand objects takes about as long as they are many") {
    const auto sheet = readSheetText(sheetText(R"([deliver]
kind = "files"
[[text]]
path = "{n}.txt"
each = "object"
text = "{{object.name}} of {{name}}, {{object.triangles}} of {{triangles}}"
)"));
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    const Node first = model.nodes[0];
    model.nodes.clear();
    for (int i = 0; i < 2000; ++i) {
        model.nodes.push_back(first);
        model.nodes.back().name = "crate " + std::to_string(i);
    }
    const WorkWatch watch;
    const auto files = made(sheet, model);
    REQUIRE(files.size() == 2000);
    CHECK(files.at("7.txt") == "crate 6 of Tide bell, 12 of 24000");
    CHECK(watch.seconds() < 2);
}

TEST_CASE("an object without a face has no file, and texts do not name it") {
    const auto sheet = readSheetText(sheetText(R"([deliver]
kind = "files"
[[file]]
path = "{object}.glb"
format = "glb"
each = "object"
[[text]]
path = "list.txt"
text = "{{#objects}}{{name}} in {{file.file}};{{/objects}}"
)"));
    Model model = pair();
    model.nodes.insert(model.nodes.begin(), model.nodes[0]);
    model.nodes[0].name = "Right crate", model.nodes[0].mesh = 2;
    model.meshes.push_back(std::make_shared<const Mesh>());
    const auto files = made(sheet, model);
    CHECK(files.size() == 3);
    CHECK(files.at("list.txt") == "Left crate in left-crate.glb;Right crate in right-crate.glb;");
}

TEST_CASE("a look at what a sheet writes says section by section what comes, and what goes wrong where") {
    const auto sheet = readSheetText(sheetText(R"([deliver]
kind = "files"
packed = "all.zip"
[[file]]
path = "{object}.glb"
format = "glb"
each = "object"
[[still]]
path = "still.png"
width = 32
height = 32
[[text]]
path = "a.txt"
text = "{{name}}"
[[text]]
path = "a.txt"
text = "again"
[[text]]
path = "objects/{object}.txt"
each = "object"
text = "{{object.name}}"
)"));
    deliver::OwnFiles files;
    files.forSheet(sheet);
    const auto sections = files.preview(pair(), sheet, {.name = "Bell"}, {});
    using Section = deliver::SectionFiles::Section;
    REQUIRE(sections.size() == 5);
    CHECK(sections[0].section == Section::File);
    CHECK(sections[0].files.size() == 2);
    CHECK(sections[1].section == Section::Still);
    CHECK(sections[1].files.at(0).name == "still.png");
    CHECK(sections[2].section == Section::Text);
    CHECK(sections[2].files.at(0).bytes == "Bell");
    CHECK(sections[3].files.empty());
    CHECK_THAT(sections[3].problem, Contains("would be written twice"));
    CHECK(sections[4].index == 2);
    REQUIRE(sections[4].files.size() == 2);
    CHECK(sections[4].files[1].name == "objects/right-crate.txt");
    CHECK(sections[4].problem.empty());
}

} // namespace own_files_tests
