// What the real game said: kept in its sheet, held against what it took, and its log.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/learn/count_kinds.h"
#include "core/learn/game_said.h"
#include "core/platform/game_log.h"
#include "core/platform/name_pattern.h"
#include "core/platform/own_sheet.h"
#include "core/platform/sheet_known.h"
#include "support/shapes.h"
#include "support/sheet_text.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace game_said_tests {

using namespace zl::learn;
using namespace zl::platform;
using Catch::Matchers::Contains;
namespace fs = std::filesystem;

GameAnswer answer(bool accepted, std::map<std::string, double> numbers,
                  std::map<std::string, std::string> words = {}) {
    GameAnswer out;
    out.piece = "Bell", out.when = "2026-11-30", out.accepted = accepted;
    out.numbers = std::move(numbers), out.words = std::move(words);
    return out;
}

Sheet sheetWith(const std::vector<GameAnswer>& answers, const std::string& more = {}) {
    std::string sections;
    for (const GameAnswer& one : answers) sections += answerSection(one);
    return readSheetText(sheetText(sections + more));
}

const Difference* named(const std::vector<Difference>& list, const std::string& id) {
    for (const Difference& one : list)
        if (one.id == id) return &one;
    return nullptr;
}

TEST_CASE("an answer comes back from a sheet as it was kept, whatever is in it") {
    GameAnswer kept =
        answer(false, {{"triangles", 9120}, {"file-size", 1.25}}, {{"picture-format", "tga, png"}});
    kept.piece = "the \"Bell\" \\ ü\nof the quay", kept.because = "'''too''' # many", kept.note = "line\ttwo";
    kept.limit = "triangles";
    const Sheet sheet = sheetWith({kept, answer(true, {})});
    REQUIRE(sheet.answers.size() == 2);
    const GameAnswer& read = sheet.answers[0];
    CHECK(read.piece == kept.piece);
    CHECK(read.because == kept.because);
    CHECK(read.note == kept.note);
    CHECK(read.limit == "triangles");
    CHECK(read.numbers == kept.numbers);
    CHECK(read.words == kept.words);
    CHECK_FALSE(read.accepted);
    CHECK(sheet.answers[1].accepted);
    CHECK_THROWS_WITH(
        readSheetText(sheetText("[[answer]]\npiece = \"a\"\nwhen = \"b\"\nnumbers = { triangles = "
                                "\"many\" }\n")),
        Contains("is not a number"));
    CHECK_THROWS_WITH(readSheetText(sheetText("[[answer]]\npiece = \"a\"\nwhen = \"b\"\nnumbers = 3\n")),
                      Contains("no table"));
}

TEST_CASE("what sets a refused piece apart comes with the most telling first, and with a limit between") {
    const Sheet sheet = sheetWith({answer(true, {{"corners", 1200}, {"objects", 3}, {"materials", 2}}),
                                   answer(true, {{"corners", 15800}, {"objects", 7}, {"materials", 2}}),
                                   answer(true, {{"corners", 4000}, {"objects", 5}, {"materials", 1}}),
                                   answer(false, {{"corners", 10}, {"objects", 500}})});
    const auto apart =
        differences(answer(false, {{"corners", 64000}, {"objects", 9}, {"materials", 2}}), sheet);
    REQUIRE(apart.size() == 2); // as many materials as others have say nothing
    CHECK(apart[0].id == "corners");
    CHECK(apart[1].id == "objects"); // and what was refused before says nothing of what is taken
    CHECK_THAT(apart[0].said, Contains("64"));
    REQUIRE(apart[0].limit);
    const double most = apart[0].limit->limit("most", 0);
    CHECK(most > 32000); // nobody knows what becomes of those between: it forbids no more than it must
    CHECK(most < 64000);
    CHECK(apart[0].limit->severity == Severity::Must);
    CHECK_THAT(apart[0].confidence, Contains("took") && Contains("refused"));
    // One that is refused close above brackets it: 16 000 is the only number with two digits between.
    const auto near = differences(answer(false, {{"corners", 16050}}), sheet);
    REQUIRE(near.size() == 1);
    CHECK(near[0].limit->limit("most", 0) == 16000);
    // Less than all others is said where it is much less, and makes no limit.
    const auto less = differences(answer(false, {{"corners", 12}}), sheet);
    REQUIRE(less.size() == 1);
    CHECK_FALSE(less[0].limit);
    CHECK(differences(answer(false, {{"corners", 1000}}), sheet).empty());
    // Of what the sheet's own limit foresaw, none is offered: it has 9 000 triangles.
    const Sheet strict = sheetWith({answer(true, {{"triangles", 500}})});
    CHECK_FALSE(differences(answer(false, {{"triangles", 20000}}), strict).at(0).limit);
    CHECK(differences(answer(false, {{"triangles", 8000}}), strict).at(0).limit);
}

TEST_CASE("examples that a sheet was learnt from count as taken; with nothing known nothing is apart") {
    const Sheet learnt = sheetWith({}, "[[evidence]]\nof = \"corners\"\nsaid = \"12 of 12\"\nfiles = 12\n"
                                       "least = 24\nmiddle = 800\nmost = 4000\nnames = []\n");
    CHECK(knowsAccepted(learnt));
    const auto apart = differences(answer(false, {{"corners", 4200}, {"triangles", 1e6}}), learnt);
    REQUIRE(apart.size() == 1); // of triangles nothing is known
    CHECK(apart[0].limit->limit("most", 0) >= 4000);
    CHECK(apart[0].limit->limit("most", 0) < 4200);
    const Sheet bare = sheetWith({answer(false, {{"corners", 1}})});
    CHECK_FALSE(knowsAccepted(bare));
    CHECK(differences(answer(false, {{"corners", 4200}}), bare).empty());
}

TEST_CASE("kinds of pictures, their sides and alpha are held against what was taken") {
    const Sheet sheet =
        sheetWith({answer(true, {}, {{"picture-format", "png"}, {"power-of-two", "powers of two"}}),
                   answer(true, {}, {{"picture-format", "jpeg"}, {"alpha", "none"}})});
    const auto apart = differences(
        answer(false, {},
               {{"picture-format", "png, tga"}, {"power-of-two", "300 × 200"}, {"alpha", "says something"}}),
        sheet);
    REQUIRE(named(apart, "picture-format"));
    CHECK(named(apart, "picture-format")->limit->texts.at("formats") == "jpeg, png");
    CHECK_THAT(named(apart, "picture-format")->said, Contains("tga;"));
    REQUIRE(named(apart, "power-of-two"));
    CHECK(named(apart, "power-of-two")->limit->check == "power-of-two");
    REQUIRE(named(apart, "alpha"));
    CHECK(named(apart, "alpha")->limit->check == "alpha-unwanted");
    // Each offered limit is one that a sheet can have.
    for (const Difference& one : apart) {
        SheetText text(sheetText(""));
        putLimit(text, readSheetText(text.text()), *one.limit);
        CHECK_NOTHROW(readSheetText(text.text()));
    }
}

TEST_CASE("a limit goes into the rule of its kind, else becomes one") {
    const Sheet sheet = sheetWith({answer(true, {{"triangles", 800}, {"objects", 4}})});
    const auto apart = differences(answer(false, {{"triangles", 5000}, {"objects", 90}}), sheet);
    REQUIRE(apart.size() == 2);
    SheetText text(sheetText("[[rule]]\nid = \"triangles-2\"\ncheck = \"triangles\"\nlabel = \"Each\"\n"
                             "severity = \"should\"\nmost = 7\nper-object = 1\nmessage = \"Each.\"\n"));
    const Sheet before = readSheetText(text.text());
    CHECK(putLimit(text, before, *named(apart, "objects")->limit) == "objects");
    CHECK(putLimit(text, before, *named(apart, "triangles")->limit) == "triangles");
    const Sheet after = readSheetText(text.text());
    CHECK(after.rules.size() == before.rules.size() + 1);
    CHECK(after.rule("triangles")->limit("most", 0) == named(apart, "triangles")->limit->limit("most", 0));
    CHECK(after.rule("triangles-2")->limit("most", 0) == 7); // of each object, which was not meant
    CHECK(after.rule("objects")->limit("most", 0) < 90);
}

TEST_CASE("an answer notes what the delivered files are like") {
    const TemporaryFolder folder;
    const Model ball = shapes::modelOf(shapes::sphere(24, 12, 0.5), "ball");
    writeAllOrNone(folder.path(), formats::writeGlb(ball, {"ball"}, nullptr));
    std::size_t triangles = 0;
    for (const auto& mesh : ball.meshes) triangles += mesh->indices.size() / 3;
    GameAnswer made;
    noteTraits(made, folder.path());
    CHECK(made.numbers.at("triangles") == double(triangles));
    CHECK(made.numbers.at("objects") == 1);
    CHECK(made.words.contains("up"));
    CHECK_THROWS_AS(noteTraits(made, folder.path() / "nowhere"), Error);
}

TEST_CASE("the end of a log is read while it grows, in UTF-16 too") {
    const TemporaryFolder folder;
    const auto wide = [](const std::u16string& text, bool big) {
        std::string out = big ? "\xFE\xFF" : "\xFF\xFE";
        for (const char16_t c : text) {
            const char high = char(c >> 8), low = char(c & 0xFF);
            out += big ? high : low;
            out += big ? low : high;
        }
        return out;
    };
    const std::u16string words = u"mesh 'bell ü 🦔' refused\r\nnext\r\n";
    for (const bool big : {false, true})
        CHECK(endOfLog(folder.write("wide.log", wide(words, big))) ==
              "mesh 'bell ü 🦔' refused\r\nnext\r\n");
    CHECK(endOfLog(folder.write("odd.log", wide(u"ab", false) + "x")) == "ab");
    CHECK(endOfLog(folder.write("half.log", wide(std::u16string(1, char16_t(0xD800)), false))).empty());
    CHECK(endOfLog(folder.write("long.log", "first line\nsecond line\nthird\n"), 12) == "third\n");
    CHECK(endOfLog(folder.write("wide-end.log", wide(u"first\nsecond\n", false)), 18) == "second\n");
    CHECK(endOfLog(folder.write("empty.log", "")).empty());
    CHECK(endOfLog(folder.write("one.log", "x")) == "x");
    CHECK_THROWS_AS(endOfLog(folder.path() / "none.log"), Error);
    CHECK_THROWS_AS(endOfLog(folder.path()), Error);
}

TEST_CASE("a line that was made known is said in words from then on") {
    const std::string line = "[12:04] ERR mesh \"bell\" has 9120 tris (cap 8192)";
    LogPattern pattern;
    pattern.pattern = patternFor(line, changingIn(line));
    pattern.says = "Too fine: {2}", pattern.rule = "triangles", pattern.mends = {"reduce-triangles"};
    const Sheet sheet = readSheetText(sheetText(logSection(pattern)));
    const auto read = readLog("noise\n[23:59] ERR mesh \"a (b)\" has 7 tris (cap 8192)\n", sheet);
    REQUIRE(read.size() == 2);
    CHECK_FALSE(read[0].pattern);
    REQUIRE(read[1].pattern);
    CHECK(read[1].says == "Too fine: a (b)");
    CHECK(read[1].pattern->mends == std::vector<std::string>{"reduce-triangles"});
    CHECK(read[1].pattern->refuses);
}

TEST_CASE("a pattern of a line matches that line, whatever signs are in it") {
    std::string all;
    for (int c = 1; c < 128; ++c)
        if (c != '\n' && c != '\r') all += char(c);
    for (const std::string& line :
         {all, std::string("[a] {b} (c) \\d+ e|f ^g$ *h?"), std::string("]}"), std::string()}) {
        INFO(line);
        CHECK(NamePattern(patternOf(line)).matches(line));
        CHECK(NamePattern(patternFor(line, changingIn(line))).matches(line));
        CHECK_FALSE(NamePattern(patternOf(line)).matches(line + "x"));
    }
    // As people write them: a backslash before an ordinary sign is that sign, within brackets it is one.
    CHECK(NamePattern("\\[(.+)\\] a\\-b\\/c\\}").matches("[12] a-b/c}"));
    CHECK(NamePattern("[a\\]+").matches("a\\a"));
    CHECK(NamePattern("[^]x]+\\.").matches("ab."));
    CHECK_FALSE(NamePattern("[^]x]+").matches("a]"));
    CHECK_THROWS_AS(NamePattern("["), Error);
    CHECK_THROWS_AS(NamePattern("(\\"), Error);
}

TEST_CASE("a sheet that ships is changed in a copy that takes its place; others where they lie") {
    const TemporaryFolder project;
    const auto words = deliver::sheetWords({"files"});
    const auto shipped = sheet("hearthboard");
    const std::string before = readText(shipped->file);
    const auto note = [](SheetText& text) { text.set("", "notes", "\"seen\""); };
    const fs::path copy = changeSheet(*shipped, project.path(), note, {});
    CHECK(copy == project.path() / "platforms/hearthboard.toml");
    CHECK(readText(shipped->file) == before);
    const auto now = sheetNamed(loadSheets(project.path()), "hearthboard");
    CHECK(now->notes == "seen");
    CHECK(ownerOf(*now, project.path()) == SheetOwner::Project);
    CHECK(changeSheet(*now, project.path(), [](SheetText& text) { text.set("", "notes", "\"twice\""); },
                      {}) == copy);
    // What could not be read is not written.
    const std::string good = readText(copy);
    CHECK_THROWS_AS(changeSheet(
                        *now, project.path(), [](SheetText& text) { text.set("", "nots", "1"); }, words),
                    Error);
    CHECK(readText(copy) == good);
}

TEST_CASE("a copy of a sheet has the templates that lie beside the first, or is not made") {
    const TemporaryFolder shelf, project;
    const auto words = deliver::sheetWords({"files"});
    const fs::path file = shelf.write(
        "weir.toml",
        sheetText("[deliver]\nkind = \"files\"\n[[text]]\npath = \"a.txt\"\nfrom = \"t/a.mustache\"\n"
                  "[[part]]\nname = \"head\"\nfrom = \"t/head.mustache\"\n"));
    shelf.write("t/a.mustache", "{{> head}}{{name}}");
    shelf.write("t/head.mustache", "of ");
    const Sheet sheet = readSheet(file, words);
    CHECK(sheet.files.beside == std::set<std::string>{"t/a.mustache", "t/head.mustache"});
    const auto note = [](SheetText& text) { text.set("", "notes", "\"seen\""); };
    const Sheet copy = readSheet(changeSheet(sheet, project.path(), note, words), words);
    CHECK(copy.notes == "seen");
    CHECK(copy.files.parts.at("head") == "of ");
    fs::remove(shelf.path() / "t/head.mustache");
    const TemporaryFolder other;
    CHECK_THROWS_AS(changeSheet(sheet, other.path(), note, words), Error);
    CHECK(fs::is_empty(other.path()));
}

} // namespace game_said_tests
