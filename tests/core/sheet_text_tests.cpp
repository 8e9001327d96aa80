// Sheets as texts that are changed in one place, as packages, and what a game's log says by them.
#include "core/base/error.h"
#include "core/base/archive.h"
#include "core/platform/game_log.h"
#include "core/platform/sheet_package.h"
#include "core/platform/sheet_text.h"
#include "support/sheet_text.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;
using namespace zl::platform;
using Catch::Matchers::Contains;

namespace sheet_text_tests {

constexpr const char* small = R"(# What it is.
id = "weir" # small letters
name = "Weir"

[unit]
name = "cm"
metres = 0.01   # a hundredth

# Said by the makers.
[[rule]]
id = "triangles"
most = 9000
mend = [
  "reduce-triangles", # best
]

[[rule]]
id = "names"
pattern = "[a-z]+"
# behind
)";

std::string changed(const std::string& from, const std::string& to) {
    std::string text = small;
    const auto at = text.find(from);
    REQUIRE(at != std::string::npos);
    return text.replace(at, from.size(), to);
}

TEST_CASE("a value of a sheet's text is changed and nothing else of it") {
    SheetText sheet(small);
    sheet.set("unit", "metres", "0.1");
    CHECK(sheet.text() == changed("metres = 0.01 ", "metres = 0.1 "));
    sheet = SheetText(small);
    sheet.set("", "name", "\"Weir Gardens ä\"");
    CHECK(sheet.text() == changed("name = \"Weir\"", "name = \"Weir Gardens ä\""));
    sheet.set("", "name", "\"Weir\"");
    CHECK(sheet.text() == small);
    sheet.set("", "kind", "\"a garden\"");
    CHECK(sheet.text() == changed("name = \"Weir\"\n", "name = \"Weir\"\nkind = \"a garden\"\n"));
    sheet.erase("", "kind");
    CHECK(sheet.text() == small);
    sheet.set("rule", 0, "most", "12000");
    CHECK(sheet.text() == changed("most = 9000", "most = 12000"));
    sheet = SheetText(small);
    sheet.set("rule", 0, "severity", "\"should\"");
    CHECK(sheet.text() == changed("# best\n]\n", "# best\n]\nseverity = \"should\"\n"));
    sheet.erase("rule", 0, "severity");
    sheet.set("rule", 0, "mend", "[]");
    CHECK_THAT(sheet.text(), Contains("mend = []\n\n[[rule]]"));
    sheet = SheetText(small);
    sheet.set("axes", "up", "\"Z\""); // a section that is missing
    CHECK_THAT(sheet.text(), Contains("[axes]\nup = \"Z\"\n\n"));
    CHECK(sheet.text().find("[axes]") < sheet.text().find("[[rule]]"));
}

TEST_CASE("rules are added to a sheet's text and taken away") {
    SheetText sheet(small);
    CHECK(sheet.count("rule") == 2);
    CHECK(sheet.find("rule", "id", "names") == 1);
    CHECK_FALSE(sheet.find("rule", "id", "name"));
    CHECK(sheet.lineOf("rule", 0) == 10);
    sheet.add("rule", "[[rule]]\nid = \"bones\"\nmost = 3\n");
    CHECK(sheet.text() ==
          changed("pattern = \"[a-z]+\"\n", "pattern = \"[a-z]+\"\n\n[[rule]]\nid = \"bones\"\nmost = 3\n"));
    sheet.remove("rule", 0);
    CHECK(sheet.count("rule") == 2);
    CHECK(sheet.text().find("Said by the makers") == std::string::npos);
    CHECK_THAT(sheet.text(), Contains("# a hundredth\n\n[[rule]]\nid = \"names\""));
    sheet.remove("rule", 0), sheet.remove("rule", 0), sheet.remove("rule", 0);
    CHECK(sheet.count("rule") == 0);
    sheet.add("rule", "[[rule]]\nid = \"bones\"\n");
    CHECK(sheet.count("rule") == 1);
    CHECK_THROWS_WITH(sheet.set("unit", "metres", "a b"), Contains(""));
    CHECK_THROWS_AS(SheetText("id = "), Error);
}

TEST_CASE("every shipped sheet keeps its other lines when one value of each of its rules changes") {
    for (const auto& own : loadSheets()) {
        const std::string before = readText(own->file);
        SheetText sheet(before);
        REQUIRE(sheet.count("rule") == own->rules.size());
        for (std::size_t i = 0; i < own->rules.size(); ++i) sheet.set("rule", i, "label", "\"Other\"");
        const Sheet after = sheetFromText(sheet.text(), own->file);
        for (const RuleSpec& rule : after.rules) CHECK(rule.label == "Other");
        CHECK(std::ranges::count(sheet.text(), '\n') == std::ranges::count(before, '\n'));
        for (std::size_t i = own->rules.size(); i-- > 1;) sheet.remove("rule", i);
        CHECK(sheetFromText(sheet.text(), own->file).rules.size() == 1);
    }
}

TEST_CASE("a sheet's package holds it with its templates, and comes back as it was") {
    const TemporaryFolder folder;
    folder.write("weir.toml", sheetText("[deliver]\nkind = \"files\"\n[[text]]\npath = \"{name}.cfg\"\n"
                                        "from = \"texts/prop.mustache\"\n[[part]]\nname = \"head\"\n"
                                        "from = \"texts/head.mustache\"\n"));
    folder.write("texts/prop.mustache", "{{> head}}mesh={{name}}\n");
    folder.write("texts/head.mustache", "# a prop\n");
    const auto words = deliver::sheetWords({"files"});
    const Sheet sheet = readSheet(folder / "weir.toml", words);
    CHECK(sheet.files.texts.at(0).text == "{{> head}}mesh={{name}}\n");
    folder.write("w.zestsheet", packedSheet(sheet, {{"notes.md", "Their forum says so."}}));
    const auto files = unpackedSheet(folder / "w.zestsheet");
    const auto at = takeSheet(files, folder / "platforms", words);
    CHECK(at == folder / "platforms/weir/sheet.toml");
    CHECK(readText(folder / "platforms/weir/notes.md") == "Their forum says so.");
    const Sheet again = readSheet(at, words);
    CHECK(hashOf(again) == hashOf(sheet));
    CHECK(differencesOf(sheet, again).empty());
    // An edition later: what is no longer in it goes.
    auto later = files;
    std::erase_if(later, [](const OutFile& file) { return file.name == "notes.md"; });
    takeSheet(later, folder / "platforms", words);
    CHECK_FALSE(std::filesystem::exists(folder / "platforms/weir/notes.md"));
    // What cannot be read changes nothing.
    for (OutFile& file : later)
        if (file.name == "sheet.toml") file.bytes = "id = 7";
    CHECK_THROWS_AS(takeSheet(later, folder / "platforms", words), Error);
    CHECK(hashOf(readSheet(at, words)) == hashOf(sheet));
    folder.write("x.zestsheet", zipped({{"a.txt", "x"}}));
    CHECK_THROWS_WITH(unpackedSheet(folder / "x.zestsheet"), Contains("holds no sheet"));
    folder.write("y.zestsheet", zipped({{"../sheet.toml", "x"}, {"sheet.toml", "x"}}));
    CHECK_THROWS_WITH(unpackedSheet(folder / "y.zestsheet"), Contains("leads out"));
    folder.write("z.zestsheet", "PK no");
    CHECK_THROWS_AS(unpackedSheet(folder / "z.zestsheet"), Error);
}

TEST_CASE("what changed between two editions is said in words") {
    const Sheet before = readSheetText(sheetText(""));
    std::string text = sheetText("");
    text.replace(text.find("9000"), 4, "12000");
    text.replace(text.find("metres = 0.01"), 13, "metres = 1.00");
    text += "[[rule]]\nid = \"bones\"\nlabel = \"Bones\"\nmost = 30\nmessage = \"Because.\"\n";
    const auto said = differencesOf(before, readSheetText(text));
    REQUIRE(said.size() == 3);
    CHECK_THAT(said[0], Contains("Unit: cm (0.01 m) → cm (1 m)"));
    CHECK_THAT(said[1], Contains("Triangles: most 9") && Contains("→ most 12"));
    CHECK_THAT(said[2], Contains("Bones is new: most 30"));
}

TEST_CASE("wrong words, later versions and rules without number in a sheet are told by line, soon") {
    const auto why = [](const std::string& text) -> std::string {
        try {
            readSheetText(text);
        } catch (const Error& error) {
            return error.whole();
        }
        return "nothing";
    };
    CHECK_THAT(why(sheetText("", "made-for = 9\n")), Contains("weir.toml:4") && Contains("version 9"));
    CHECK(why(sheetText("", "made-for = 2\n")) == "nothing");
    std::string many;
    for (int i = 0; i < 2000; ++i)
        many += "[[rule]]\nid = \"t" + std::to_string(i) + "\"\ncheck = \"" +
                (i == 1999 ? "triangels" : "triangles") + "\"\nlabel = \"T\"\nmost = 5\nmessage = \"x\"\n";
    CHECK_THAT(why(sheetText(many)), Contains("\"triangles\" perhaps") && Contains("weir.toml:120"));
    many.replace(many.find("triangels"), 9, "triangles");
    CHECK(why(sheetText(many)) == "nothing");
    SheetText sheet(sheetText(many));
    sheet.set("rule", 1500, "most", "77");
    CHECK(readSheetText(sheet.text()).rules[1500].limit("most", 0) == 77);
    CHECK_THAT(why(sheetText("[[log]]\npattern = \"[\"\nsays = \"x\"\n")), Contains("is not a pattern"));
    CHECK_THAT(why(sheetText("[[log]]\npattern = \"a\"\nsays = \"x\"\nrule = \"triangels\"\n")),
               Contains("\"triangles\" perhaps"));
}

TEST_CASE("a line of a game's log is told in the sheet's words, and an unknown one becomes a pattern") {
    const Sheet sheet = readSheetText(sheetText(R"([[log]]
pattern = "mesh '(.+)' has ([0-9]+) tris"
says = "{1} has {2} triangles"
rule = "triangles"
mend = ["reduce-triangles"]
)"));
    const std::string line = "12:03:55 WARN shader cache 'oak_2' rebuilt in 18 ms (3)";
    const auto lines = readLog("\n[x] mesh 'bell' has 9120 tris\r\n" + line + "\n\n", sheet);
    REQUIRE(lines.size() == 2);
    CHECK(lines[0].line == 2);
    CHECK(lines[0].says == "bell has 9120 triangles");
    REQUIRE(lines[0].pattern);
    CHECK(lines[0].pattern->rule == "triangles");
    CHECK_FALSE(lines[1].pattern);
    const auto parts = changingIn(line);
    std::vector<std::string> words;
    for (const Range& part : parts) words.push_back(line.substr(part.from, part.to - part.from));
    CHECK(words == std::vector<std::string>{"12:03:55", "oak_2", "18", "3"});
    const std::string pattern = patternFor(line, parts);
    CHECK(pattern == "^(.+) WARN shader cache '(.+)' rebuilt in (.+) ms \\((.+)\\)$");
    Sheet with = sheet;
    with.log.push_back({pattern, "{2} was made anew in {3} ms"});
    CHECK(readLog("9:00 WARN shader cache 'elm' rebuilt in 7 ms (1)", with).at(0).says ==
          "elm was made anew in 7 ms");
    CHECK(patternFor("a.b", {{1, 2}, {0, 2}, {5, 9}}) == "^(.+)b$");
    CHECK(readLog(std::string("a\0b", 3) + "\xff\xfe" + std::string(100000, 'x'), sheet).size() == 1);
}

} // namespace sheet_text_tests
