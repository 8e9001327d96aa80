// What single properties say of small folders, worked out by hand; what is learnt of whole games is in
// learn_sets_tests.cpp.
#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/base/lines.h"
#include "core/base/name_styles.h"
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/learn/evidence.h"
#include "core/learn/group_data.h"
#include "core/learn/sheet_from.h"
#include "core/platform/sheet.h"
#include "core/texture/picture_file.h"
#include "standins/stand_in.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <random>

using namespace zl;

namespace learn_property_tests {

using Catch::Matchers::Contains;
namespace fs = std::filesystem;

/// A box that stands on the floor, this wide and tall, as a file.
void put(const TemporaryFolder& folder, const std::string& path, double width, double height) {
    const fs::path file(path);
    fs::create_directories((folder.path() / file).parent_path());
    const Model box = shapes::box({-width / 2, 0, -width / 2}, {width / 2, height, width / 2});
    folder.write(path, formats::writeObj(box, {file.stem().string()}, nullptr).at(0).bytes);
}

void putBall(const TemporaryFolder& folder, const std::string& path, int around) {
    folder.write(path, formats::writeObj(shapes::modelOf(shapes::sphere(around, around / 2 + 1)),
                                         {fs::path(path).stem().string()}, nullptr)
                           .at(0)
                           .bytes);
}

std::string picture(int width, int height, std::uint8_t alpha = 255) {
    Pixels pixels{width, height, std::vector<std::uint8_t>(std::size_t(4) * width * height, 120)};
    for (std::size_t i = 3; i < pixels.rgba.size(); i += 4) pixels.rgba[i] = alpha;
    return texture::encodePng(pixels, alpha < 255);
}

learn::Offer offered(const learn::Evidence& evidence, const char* id) {
    INFO(id);
    const auto* property = evidence.property(id);
    REQUIRE(property);
    REQUIRE(property->offered);
    return *property->offered;
}

learn::Evidence learnt(const TemporaryFolder& accepted) {
    return learn::evidenceOf({accepted.path(), {}});
}

TEST_CASE("things whose size is known make the unit, and say so when they disagree") {
    const TemporaryFolder folder;
    put(folder, "chair.obj", 4, 9.5); // of 0.95 m
    put(folder, "barn_door.obj", 9, 20.5);
    put(folder, "deskTable.obj", 14, 8);
    const auto& sure = offered(learnt(folder), "unit");
    CHECK(sure.keys.at("unit.metres") == "0.1");
    CHECK(sure.isSure);
    CHECK_THAT(sure.confidence, Contains("3 things") && Contains("0.1 m") && !Contains("disagree"));
    // A dolls' house among them: nobody knows.
    put(folder, "chair.obj", 40, 95);
    put(folder, "bed.obj", 2, 1);
    const auto& unsure = offered(learnt(folder), "unit");
    CHECK_FALSE(unsure.isSure);
    CHECK_THAT(unsure.confidence, Contains("disagree"));
    const TemporaryFolder nameless;
    put(nameless, "x.obj", 4, 9.5);
    const auto& guess = offered(learnt(nameless), "unit");
    CHECK(guess.keys.at("unit.metres") == "1.0");
    CHECK_FALSE(guess.isSure);
    CHECK_THAT(guess.confidence, Contains("metres for now"));
}

TEST_CASE("a limit lies above all that was taken and below what was refused") {
    const TemporaryFolder taken, refused;
    for (const int around : {10, 12, 14, 16, 18, 20}) putBall(taken, std::to_string(around) + ".obj", around);
    putBall(refused, "much.obj", 24);
    const auto alone = learnt(taken);
    const auto* triangles = alone.property("triangles");
    REQUIRE(triangles);
    CHECK(triangles->accepted.size() == 6);
    const auto most = double(shapes::sphere(20, 11).triangleCount()),
               tooMuch = double(shapes::sphere(24, 13).triangleCount());
    CHECK(triangles->most == most);
    CHECK(offered(alone, "triangles").rule->limit("most", 0) >= most);
    const auto both = learn::evidenceOf({taken.path(), refused.path()});
    const double limit = offered(both, "triangles").rule->limit("most", 0);
    CHECK(limit >= most);
    CHECK(limit < tooMuch);
    CHECK(both.property("triangles")->refused.size() == 1);
    CHECK_THAT(offered(both, "triangles").confidence, Contains("refused"));
}

TEST_CASE("sides of pictures are limits where every picture holds them, and alpha where none has it") {
    const TemporaryFolder folder;
    for (int i = 0; i < 5; ++i) folder.write("p" + std::to_string(i) + ".png", picture(16 << (i % 3), 32));
    auto evidence = learnt(folder);
    CHECK(offered(evidence, "power-of-two").rule->severity == platform::Severity::Must);
    CHECK_THAT(offered(evidence, "power-of-two").confidence, Contains("3 different sizes"));
    CHECK(offered(evidence, "picture-format").isSure);
    CHECK(offered(evidence, "alpha").rule->check == "alpha-unwanted");
    folder.write("odd.png", picture(48, 32));
    folder.write("glass.png", picture(16, 16, 40));
    evidence = learnt(folder);
    CHECK_FALSE(evidence.property("power-of-two")->offered);
    CHECK(evidence.property("power-of-two")->outliers.size() == 1);
    const auto* alpha = evidence.property("alpha");
    CHECK((!alpha->offered || !alpha->offered->rule || alpha->offered->rule->check != "alpha-unwanted"));
}

TEST_CASE("an archive, also one that lies about itself, is learnt from like a folder, or is an error") {
    const TemporaryFolder folder, packed;
    for (const char* name : {"a", "b", "c"}) put(folder, std::string(name) + ".obj", 1, 1);
    std::vector<OutFile> files;
    for (const auto& entry : fs::directory_iterator(folder.path()))
        files.push_back({"deep/" + entry.path().filename().string(), readText(entry.path())});
    packed.write("all.zip", zipped(files));
    packed.write("all.7z", sevenZipped(files));
    for (const char* name : {"all.zip", "all.7z"}) {
        INFO(name);
        fs::path root;
        {
            const auto evidence = learn::evidenceOf({packed.path() / name, {}});
            CHECK(evidence.files.size() == 3);
            CHECK(evidence.property("triangles")->most == 12);
            root = evidence.root;
            for (const auto& file : evidence.files) CHECK(fs::exists(root / file.path));
        }
        CHECK_FALSE(fs::exists(root));
    }
    const std::string whole = zipped(files);
    packed.write("cut.zip", whole.substr(0, whole.size() / 2));
    packed.write("empty.zip", zipped({}));
    packed.write("text.zip", "no archive at all");
    for (const char* name : {"cut.zip", "empty.zip", "text.zip", "gone.zip"}) {
        INFO(name);
        CHECK_THROWS_AS(learn::evidenceOf({packed.path() / name, {}}), Error);
    }
    const TemporaryFolder none;
    CHECK_THROWS_AS(learnt(none), Error);
    // Whoever stops it stops it.
    const std::atomic<bool> stop = true;
    CHECK_THROWS_AS(learn::evidenceOf({folder.path(), {}}, Progress({}, &stop)), Cancelled);
}

/// Ten pieces as a game's makers have them, whose names say where their words part.
void putPieces(const TemporaryFolder& folder, const std::function<std::string(const char*)>& styled,
               const std::string& model, const std::string& text, const std::string& says) {
    for (const char* title : {"Oak door", "Quay bench", "Pear crate", "Lamp", "Net chair", "Fair table",
                              "Hop bed", "Rope bollard", "Tin bucket", "Dock ladder"}) {
        const auto with = [&](std::string words) {
            for (std::size_t at; (at = words.find("NAME")) != std::string::npos;)
                words.replace(at, 4, styled(title));
            return words;
        };
        put(folder, with(model), 1, 1);
        fs::create_directories((folder.path() / with(text)).parent_path());
        folder.write(with(text), with(says));
    }
}

std::string templateOf(const learn::Evidence& evidence, const std::string& path) {
    const std::string sections = offered(evidence, ("text:" + path).c_str()).sections;
    const std::size_t from = sections.find("\'\'\'\n"), to = sections.rfind("\'\'\'");
    REQUIRE(from < to);
    return sections.substr(from + 4, to - from - 4);
}

TEST_CASE("a file that is called unlike the others does not change how all are called") {
    for (const auto& [style, place] : {std::pair{NameStyle::Capitals, "{name:capitals}"},
                                       {NameStyle::Underscores, "{name:underscores}"},
                                       {NameStyle::Hyphens, "{name}"},
                                       {NameStyle::AsItIs, "{name:as-it-is}"}})
        for (const std::string prefix : {"", "SM_", "wx-"}) {
            INFO(prefix << place);
            const TemporaryFolder folder;
            putPieces(
                folder, [&](const char* title) { return prefix + styledName(title, style); },
                "meshes/NAME.obj", "defs/NAME.def", "mesh NAME\n");
            const std::string wanted = prefix + place;
            CHECK(learnt(folder).layout.patterns.at(0).path == "defs/" + wanted + ".def");
            put(folder, "meshes/Copy of thing.obj", 1, 1);
            const auto layout = learnt(folder).layout;
            CHECK(layout.prefix == prefix);
            REQUIRE(layout.patterns.size() == 3);
            CHECK(layout.patterns[0].path == "defs/" + wanted + ".def");
            CHECK(layout.patterns[1].path == "meshes/" + wanted + ".obj");
            CHECK(layout.patterns[1].groups == 10);
            CHECK(layout.patterns[2].groups == 1);
        }
}

TEST_CASE("files that are broken among readable ones of the same name say nothing, and do no harm") {
    const TemporaryFolder folder;
    putPieces(
        folder, [](const char* title) { return styledName(title, NameStyle::Hyphens); }, "NAME.obj",
        "NAME.toml", "name = \"NAME\"\n");
    putPieces(
        folder, [](const char* title) { return styledName(title, NameStyle::Hyphens); }, "NAME.obj",
        "NAME-d.png", picture(16, 16));
    // First, last and in the middle, as whichever comes last must not decide what all are.
    for (const char* name : {"dock-ladder", "lamp", "tin-bucket"}) {
        const std::string stem = name;
        folder.write(stem + ".toml", "name = ");
        folder.write(stem + "-d.png", picture(16, 16).substr(0, 40));
        const auto evidence = learnt(folder);
        CHECK(templateOf(evidence, "{name}.toml").starts_with("name = \"{{"));
        CHECK(offered(evidence, "picture-format").isSure);
        for (const auto& pattern : evidence.layout.patterns)
            if (pattern.path != "{name}.obj") CHECK(pattern.groups == pattern.files);
    }
    CHECK(learnt(folder).unreadable.size() == 6);
}

TEST_CASE("texts that TOML cannot hold as they stand are held, and empty ones are none") {
    const TemporaryFolder folder;
    const auto named = [](const char* title) { return styledName(title, NameStyle::Hyphens); };
    putPieces(folder, named, "NAME.obj", "NAME.lua", "mesh NAME \x7f '''\n");
    putPieces(folder, named, "NAME.obj", "NAME.yaml", "\xef\xbb\xbf"); // a mark of its coding alone
    const auto evidence = learnt(folder);
    CHECK_THAT(offered(evidence, "text:{name}.lua").sections,
               Contains(R"("mesh {{hyphens}} \u007f '''\u000a")"));
    CHECK(evidence.property("text:{name}.yaml") == nullptr);
}

TEST_CASE("no more is asked than a sheet can ask, and each text brings the questions that it needs") {
    const TemporaryFolder folder;
    const auto named = [](const char* title) { return styledName(title, NameStyle::Hyphens); };
    // Six fields a text that nothing explains, some of them in two texts, and with what is no place of ours.
    for (const char* text : {"a", "b", "c"})
        putPieces(folder, named, "NAME.obj", std::string("NAME.") + text + ".json", "{}");
    std::mt19937 random(7);
    for (const auto& entry : fs::directory_iterator(folder.path())) {
        if (entry.path().extension() != ".json") continue;
        const char text = entry.path().stem().extension().string().at(1);
        nlohmann::json says;
        for (int k = 0; k < 6; ++k)
            says[k == 0 ? std::string("shared") : std::string(1, text) + std::to_string(k)] =
                (random() % 3 ? "{{alpha" : "beta\"") + std::to_string(random() % 2);
        writeFile(entry.path(), says.dump() + "\n");
    }
    const auto evidence = learnt(folder);
    const std::set<std::string> texts{"text:{name}.a.json", "text:{name}.b.json", "text:{name}.c.json"};
    std::set<std::string> asked;
    for (const std::string& id : texts)
        for (const auto& [name, question] : offered(evidence, id.c_str()).asks) asked.insert(name);
    CHECK(asked.size() == 8);
    CHECK(offered(evidence, "text:{name}.c.json").asks.contains("shared"));
    for (int taken = 1; taken < 8; ++taken) { // any of them alone make a sheet, too
        std::set<std::string> some;
        int bit = 1;
        for (const std::string& id : texts) {
            if (taken & bit) some.insert(id);
            bit *= 2;
        }
        const TemporaryFolder written;
        const auto file = written.write("g.toml", learn::sheetFrom(evidence, {"game", "Game", {}, {}}, some));
        INFO(readText(file));
        const auto sheet = platform::readSheet(file, deliver::sheetWords(standins::standInIds()));
        std::set<std::string> has;
        for (const auto& ask : sheet.files.asks) has.insert(ask.name);
        for (const auto& text : sheet.files.texts)
            for (std::size_t at = 0; (at = text.text.find("{{answers.", at)) != std::string::npos; ++at)
                CHECK(has.contains(text.text.substr(at + 10, text.text.find('}', at) - at - 10)));
    }
}

TEST_CASE("files with braces in their names are read, and no path is learnt that a sheet cannot say") {
    const TemporaryFolder folder;
    for (const char* name : {"{1}", "{name}", "a{b", "}", "{{x}}", "{material}"}) {
        put(folder, std::string(name) + " {2}.obj", 1, 1);
        folder.write(std::string(name) + " {2}.json", R"({"mesh": "{2}"})");
    }
    const auto evidence = learnt(folder);
    CHECK(evidence.layout.groups.size() == 6);
    const TemporaryFolder written;
    std::set<std::string> all;
    for (const auto& property : evidence.properties)
        if (property.offered) all.insert(property.id);
    const auto file = written.write("g.toml", learn::sheetFrom(evidence, {"game", "Game", {}, {}}, all));
    INFO(readText(file));
    CHECK(platform::readSheet(file, deliver::sheetWords(standins::standInIds())).files.files.empty());
}

TEST_CASE("names in texts are written as the files', also where nothing says what a piece is called") {
    for (const auto& [style, place] : {std::pair{NameStyle::Capitals, "capitals"},
                                       {NameStyle::Underscores, "underscores"},
                                       {NameStyle::Hyphens, "hyphens"}}) {
        INFO(place);
        const TemporaryFolder folder;
        putPieces(
            folder, [&](const char* title) { return styledName(title, style); }, "NAME.obj", "NAME.json",
            "{\"id\": \"NAME\"}\n");
        const std::string in = style == NameStyle::Hyphens ? "{name}" : "{name:" + std::string(place) + "}";
        CHECK(templateOf(learnt(folder), in + ".json") == "{\"id\":\"{{" + std::string(place) + "}}\"}\n");
    }
}

TEST_CASE("what is learnt of texts writes each of them again, letter by letter, whatever pieces are called") {
    constexpr const char* titles[] = {"Oak door",     "Salt & pepper", "The \"old\" bench",
                                      "O'Neil stool", "Back\\slash",   "M\xc3\xbcller's <small> box"};
    const std::map<std::string, std::string> texts{
        {"json", R"({
  "mesh": "Meshes\\FILE",
  "name": "TITLE",
  "label": "The \"TITLE\" of 2"
}
)"},
        {"hand.json", R"({ // TITLE
  "mesh": "..\\FILE", "name": "TITLE", "label": "a \"TITLE\"",
})"},
        {"xml", "<thing label=\"TITLE\">\n\t<name>TITLE</name> <!-- a & b -->\n\t<mesh "
                "file=\"..\\FILE\"/></thing>\n"},
        {"toml", "name = \"TITLE\"\nmesh = \"Meshes\\\\FILE\" # by hand\n"},
        {"cfg", "; by hand\r\n[thing]\r\nName = TITLE\r\nMesh=Meshes\\FILE\r\n"}};
    for (const auto& [ending, text] : texts) {
        INFO(ending);
        const TemporaryFolder folder;
        const Escaping as = escapingFor("a." + ending);
        std::map<std::string, std::string> written;
        for (const char* title : titles) {
            const std::string stem = styledName(title, NameStyle::Underscores);
            std::string says = text;
            for (const auto& [place, value] :
                 {std::pair<std::string, std::string>{"FILE", stem + ".obj"}, {"TITLE", escaped(title, as)}})
                for (std::size_t at = 0; (at = says.find(place, at)) != std::string::npos; at += value.size())
                    says.replace(at, place.size(), value);
            put(folder, stem + ".obj", 1, 1);
            written[stem] = says;
            folder.write(stem + "." + ending, says);
        }
        const auto evidence = learnt(folder);
        const std::string made = templateOf(evidence, "{name:underscores}." + ending);
        const bool windows = offered(evidence, ("text:{name:underscores}." + ending).c_str())
                                 .sections.find("lines = \"windows\"") != std::string::npos;
        INFO(made);
        for (const auto& group : evidence.layout.groups) {
            const TemplateData data(
                learn::groupData(group, evidence.files, learn::titleOf(group, evidence.files)), as);
            const std::string again = TextTemplate(made, "it").filled(data);
            CHECK((windows ? withWindowsLines(again) : again) == written.at(group.name));
        }
    }
}

TEST_CASE("JSON that was written by hand keeps its comments and commas; what breaks off is unreadable") {
    const TemporaryFolder folder;
    putPieces(
        folder, [](const char* title) { return styledName(title, NameStyle::Capitals); }, "NAME.obj",
        "NAME.json",
        "{\r\n  // by hand, \"or\" so\r\n  \"id\": \"NAME\", /* , } */\r\n  \"tags\": [\"prop\",],\r\n}\r\n");
    folder.write("Lamp.json", "{\n  // by hand\n  \"id\": \"La");
    const auto evidence = learnt(folder);
    CHECK(evidence.unreadable.size() == 1);
    const auto offer = offered(evidence, "text:{name:capitals}.json");
    CHECK(offer.isSure);
    for (const char* part : {"// by hand", "{{capitals}}", "/* , } */", "],\n}", "lines = \"windows\""})
        CHECK_THAT(offer.sections, Contains(part));
}

} // namespace learn_property_tests
