// Deliveries that a sheet describes by itself.
#include "core/base/error.h"
#include "core/base/archive.h"
#include "core/base/clock.h"
#include "core/deliver/own_files.h"
#include "core/deliver/placed_for.h"
#include "core/deliver/table_entries.h"
#include "core/files/files.h"
#include "core/formats/format.h"
#include "core/motion/still.h"
#include "support/bodies.h"
#include "support/rich_model.h"
#include "support/sheet_text.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <chrono>
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

TEST_CASE("a table gets an entry where its order wants it, and nothing else changes") {
    platform::TableOutput csv{.path = "t.csv", .header = "Number;Name", .key = "number"};
    CHECK(deliver::tableWith("", csv, {"7;bell"}, "t") == "Number;Name\n7;bell\n");
    const std::string game = "Number;Name\r\n2;\"a;b\"\r\n10;other ;x\r\n30;c";
    CHECK(deliver::tableWith(game, csv, {"20;bell"}, "t") ==
          "Number;Name\r\n2;\"a;b\"\r\n10;other ;x\r\n20;bell\r\n30;c");
    CHECK(deliver::tableWith(game, csv, {"40;bell"}, "t") == game + "\r\n40;bell\r\n");
    CHECK(deliver::tableWith(game, csv, {"10;bell"}, "t") == "Number;Name\r\n2;\"a;b\"\r\n10;bell\r\n30;c");
    CHECK(deliver::tableWithout(game, csv, {"10"}, "t") == "Number;Name\r\n2;\"a;b\"\r\n30;c");
    CHECK(deliver::tableWith("Number;Name\n9;x\n3;y\n", csv, {"5;z"}, "t") ==
          "Number;Name\n9;x\n3;y\n5;z\n"); // in no order: to the end
    CHECK_THROWS_AS(deliver::tableWith("a;b\n1;2\n", csv, {"5;z"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", csv, {";z"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", csv, {"1;z\n2;y"}, "t"), Error);

    const platform::TableOutput xml{
        .path = "t.xml", .form = platform::TableOutput::Form::Xml, .under = "world/things", .key = "id"};
    const std::string made = deliver::tableWith(
        "<?xml version=\"1.0\"?>\n<world><!-- ours --><things><thing id=\"b\"/></things></world>", xml,
        {"<thing id=\"a\"><mesh>x</mesh></thing>", "<thing id=\"c\"/>"}, "t");
    CHECK_THAT(made, Contains("<!-- ours -->"));
    CHECK(made.find("id=\"a\"") < made.find("id=\"b\""));
    CHECK(made.find("id=\"b\"") < made.find("id=\"c\""));
    CHECK_THROWS_AS(deliver::tableWith("<world", xml, {"<thing id=\"a\"/>"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", xml, {"<thing/>"}, "t"), Error);

    const platform::TableOutput json{
        .path = "t.json", .form = platform::TableOutput::Form::Json, .under = "things", .key = "n"};
    CHECK(deliver::tableWith("{\"v\":1,\"things\":[{\"n\":2},{\"n\":9}]}", json, {"{\"n\":5}"}, "t") ==
          "{\n  \"v\": 1,\n  \"things\": [\n    {\n      \"n\": 2\n    },\n    {\n      \"n\": 5\n    },\n"
          "    {\n      \"n\": 9\n    }\n  ]\n}\n");
    // A number stands before a text, and what is no number is one: an order that is none loses no entry.
    CHECK(deliver::tableWith("Number;Name\n9;x\nnan;y\nten;z\n", csv, {"10;b", "inf;c", "eleven;d"}, "t") ==
          "Number;Name\n9;x\n10;b\neleven;d\ninf;c\nnan;y\nten;z\n");
    CHECK_THROWS_AS(deliver::tableWith("[1", json, {"{\"n\":5}"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("{\"things\":7}", json, {"{\"n\":5}"}, "t"), Error);
}

TEST_CASE("a table of other columns, or another separator, gets its entries in those") {
    const platform::TableOutput csv{.path = "t.csv", .header = "Number;Name", .key = "number"};
    CHECK(deliver::tableWith("\xEF\xBB\xBFname,colour,number\r\ntub,red,3\r\n", csv, {"7;\"bell, old\""},
                             "t") == "\xEF\xBB\xBFname,colour,number\r\ntub,red,3\r\n\"bell, old\",,7\r\n");
    CHECK_THROWS_WITH(deliver::tableWith("number;title\n3;tub\n", csv, {"7;bell"}, "t"),
                      Contains("no column \"name\""));
    // Old ends of lines, where a lone carriage return is one.
    CHECK(deliver::tableWith("Number;Name\r3;tub\r9;mast\r", csv, {"7;bell"}, "t") ==
          "Number;Name\r3;tub\r7;bell\r9;mast\r");
    CHECK(deliver::tableWithout("Number;Name\r3;\"tub\rof two lines\"\r9;mast\r", csv, {"3"}, "t") ==
          "Number;Name\r9;mast\r");
}

TEST_CASE("numbers that a table gives out are a range, and stand beside the key") {
    const auto with = [](const std::string& lines) {
        return sheetText("[deliver]\nkind = \"files\"\n[[table]]\npath = \"t.csv\"\nheader = \"id,name\"\n"
                         "key = \"name\"\nentry = \",x\"\n" +
                         lines);
    };
    const auto sheet = readSheetText(with("number = \"id\"\nnumbers = [7, 9]\n"));
    CHECK(sheet.files.tables.at(0).numbers == std::pair(7, 9));
    const auto refused = [&](const char* lines, const char* words) {
        INFO(lines);
        CHECK_THROWS_WITH(readSheetText(with(lines)), Contains(words));
    };
    refused("number = \"id\"\n", "\"numbers\" is missing");
    refused("numbers = [7, 9]\n", "nothing says where");
    refused("number = \"name\"\nnumbers = [7, 9]\n", "tells no entry from the next");
    refused("number = \"id\"\nnumbers = [7]\n", "is no range");
    refused("number = \"id\"\nnumbers = 7\n", "is no range");
    refused("number = \"id\"\nnumbers = [9, 7]\n", "are 9 to 7");
    refused("number = \"id\"\nnumbers = [0.5, 7]\n", "are 0.5 to 7");
    refused("number = \"id\"\nnumbers = [0, 1e300]\n", "are 0 to");
    refused("number = \"id\"\nnumbers = [0, nan]\n", "is not a number");
}

TEST_CASE("entries get numbers that nobody has, and keep those that they have") {
    const platform::TableOutput csv{
        .path = "t.csv", .header = "id,name", .key = "name", .numbered = "id", .numbers = {7000, 7003}};
    // Nothing there: from the least on, whatever the entry says outside of the range.
    CHECK(deliver::tableWith("", csv, {",bell", "1,anchor", "7000,crate"}, "t") ==
          "id,name\n7001,anchor\n7000,bell\n7002,crate\n");
    const std::string game = "id,name\n7001,mast\n7000,rope\n12,tub\n";
    CHECK(deliver::tableWith(game, csv, {"7000,bell", "7001,oar"}, "t") ==
          "id,name\n7002,bell\n7001,mast\n7003,oar\n7000,rope\n12,tub\n");
    // Of the key that is there already: also a number that is outside of the range.
    CHECK(deliver::tableWith(game, csv, {"7003,tub", "7000,rope"}, "t") ==
          "id,name\n7001,mast\n7000,rope\n12,tub\n");
    // As it had at another time, unless somebody else took that one since.
    CHECK(deliver::tableWith("id,name\n", csv, {"7000,bell"}, "t", "id,name\n7002,bell\n") ==
          "id,name\n7002,bell\n");
    CHECK(deliver::tableWith("id,name\n7002,oar\n", csv, {"7000,bell"}, "t", "id,name\n7002,bell\n") ==
          "id,name\n7000,bell\n7002,oar\n");
    CHECK_THROWS_WITH(deliver::tableWith(game, csv, {"0,a", "0,b", "0,c"}, "t"),
                      Contains("all numbers from 7000 to 7003 are taken"));
    CHECK_THROWS_WITH(deliver::tableWith("name\nx\n", csv, {"0,a"}, "t"), Contains("no column \"id\""));
    // Written as a member, an attribute, or an element, whichever is there.
    const platform::TableOutput json{.path = "t.json",
                                     .form = platform::TableOutput::Form::Json,
                                     .under = "things",
                                     .key = "name",
                                     .numbered = "id",
                                     .numbers = {1, 9}};
    const auto list = nlohmann::json::parse(
        deliver::tableWith(R"({"things": [{"name": "tub", "id": 1}, {"name": "odd", "id": "2"}]})", json,
                           {R"({"name": "bell"})", R"({"name": "oar", "id": 2})"}, "t"))["things"];
    REQUIRE(list.size() == 4);
    for (const auto& one : list) {
        if (one["name"] == "bell") CHECK(one["id"] == 3);
        if (one["name"] == "oar") CHECK(one["id"] == 4);
    }
    const platform::TableOutput xml{.path = "t.xml",
                                    .form = platform::TableOutput::Form::Xml,
                                    .under = "world",
                                    .key = "name",
                                    .numbered = "id",
                                    .numbers = {1, 9}};
    const std::string world =
        deliver::tableWith("<world><thing name=\"tub\"><id>1</id></thing></world>", xml,
                           {"<thing name=\"bell\"/>", "<thing name=\"oar\"><id/></thing>"}, "t");
    CHECK_THAT(world, Contains("<thing name=\"bell\" id=\"2\" />") && Contains("<id>3</id>"));
    // Thousands of entries into thousands: in one go.
    std::vector<std::string> many;
    std::string there = "id,name\n";
    for (int i = 0; i < 20000; ++i) {
        there += fmt::format("{},had-{:05}\n", 2 * i, i);
        many.push_back(fmt::format(",new-{:05}", i));
    }
    platform::TableOutput wide = csv;
    wide.numbers = {0, 60000};
    const auto before = std::chrono::steady_clock::now();
    const auto all = deliver::entriesIn(deliver::tableWith(there, wide, many, "t"), wide, "t");
    CHECK(std::chrono::steady_clock::now() - before < std::chrono::seconds(5));
    std::set<int> numbers;
    for (const auto& one : all) numbers.insert(one.number.value());
    CHECK(numbers.size() == 40000);
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
    const Stopwatch watch;
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
