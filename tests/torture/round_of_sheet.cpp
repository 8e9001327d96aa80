// Sheets that nobody would write: their templates and paths over a rough model, their text changed and
// damaged, lines of logs, and sheets learnt from whatever lies in a folder.
#include "answered.h"
#include "rough_file.h"
#include "rough_model.h"

#include "core/base/name_styles.h"
#include "core/base/toml_text.h"
#include "core/deliver/own_files.h"
#include "core/learn/game_said.h"
#include "core/learn/sheet_from.h"
#include "core/platform/game_log.h"
#include "core/platform/name_pattern.h"
#include "core/platform/sheet_known.h"
#include "core/platform/sheet_text.h"

#include <algorithm>

using namespace zl;

namespace torture {

namespace {

constexpr const char* templatePieces[] = {"{{name}}",
                                          "{{{name}}}",
                                          "{{#objects}}",
                                          "{{/objects}}",
                                          "{{^first}}",
                                          "{{/first}}",
                                          "{{object.name}}",
                                          "{{#materials}}",
                                          "{{/materials}}",
                                          "{{>twice}}",
                                          "{{>self}}",
                                          "{{=<% %>=}}",
                                          "{{! said }}",
                                          "{{",
                                          "}}",
                                          "{{#}}",
                                          "{{files.0.path}}",
                                          "{{#pictures}}{{path}},{{/pictures}}",
                                          "\n",
                                          "\"",
                                          "<",
                                          "&",
                                          "{{bounds.low.x}}",
                                          "{{answers.kind}}",
                                          "{{credit}}"};
constexpr const char* pathPieces[] = {"{name}", "{object}", "{material}", "{n}", "{kind}", "{name:capitals}",
                                      "/",      "..",       "../",        "a",   ".txt",   "{",
                                      "}",      "{nobody}", "con",        "\\",  " "};

std::string madeOf(std::span<const char* const> pieces, int most, Dice& dice) {
    std::string out;
    for (int i = dice.between(1, most); i-- > 0;)
        out += dice.chance(0.1) ? roughName(dice) : std::string(dice.of(pieces));
    return out;
}

std::string roughSheet(Dice& dice) {
    constexpr const char* each[] = {"piece", "object", "material", "picture", "everything"};
    std::string out =
        "id = \"rough\"\nname = " + tomlText(roughName(dice)) +
        "\nkind = \"a game\"\n[unit]\nname = \"u\"\nmetres = 0.5\n[axes]\nup = \"Z\"\nfront = \"+X\"\n"
        "[figure]\nheight = 3\n[deliver]\nkind = \"files\"\n";
    if (dice.chance(0.3)) out += "packed = \"{name}.zip\"\n";
    out +=
        "[[ask]]\nname = \"kind\"\nlabel = \"Kind\"\noptions = [\"a\", " + tomlText(roughName(dice)) + "]\n";
    constexpr const char* formats[] = {"glb", "obj", "stl", "dae", "nothing"};
    for (int i = dice.between(0, 2); i-- > 0;)
        out += "[[file]]\npath = " + tomlText(madeOf(pathPieces, 4, dice) + ".x") + "\nformat = \"" +
               dice.of(formats) + "\"\neach = \"" + dice.of(each) + "\"\n";
    for (int i = dice.between(1, 3); i-- > 0;)
        out += "[[text]]\npath = " + tomlText(madeOf(pathPieces, 5, dice)) + "\neach = \"" + dice.of(each) +
               "\"\ntext = " + tomlText(madeOf(templatePieces, 9, dice)) + "\n";
    out +=
        "[[part]]\nname = \"twice\"\ntext = \"{{name}}{{name}}\"\n[[part]]\nname = \"self\"\ntext = \"{{>" +
        std::string(dice.chance(0.2) ? "self" : "twice") + "}}\"\n";
    platform::GameAnswer answer;
    answer.piece = roughName(dice), answer.when = "today", answer.accepted = dice.chance(0.5);
    answer.because = roughName(dice), answer.words[roughName(dice)] = roughName(dice);
    answer.numbers["triangles"] = dice.between(0, 99999);
    out += platform::answerSection(answer);
    return out + "[[rule]]\nid = \"triangles\"\nlabel = \"T\"\nmost = 5\nmessage = \"m\"\n";
}

/// What comes of a sheet stays within the folder, whatever its paths say.
void lookInto(const platform::Sheet& sheet, const Model& model, Dice& dice) {
    deliver::OwnFiles files;
    files.forSheet(sheet);
    std::vector<deliver::SectionFiles> sections;
    const deliver::Labels labels{roughName(dice), roughName(dice)};
    mustBeDone("a look at a rough sheet", "each section says by itself what is wrong",
               [&] { sections = files.preview(model, sheet, labels, {}); });
    for (const auto& section : sections)
        for (const OutFile& file : section.files) {
            const std::filesystem::path path = std::filesystem::path(file.name).lexically_normal();
            if (path.empty() || path.is_absolute() || *path.begin() == "..")
                throw Failure("a look at a rough sheet: leads out of the folder: " + file.name);
        }
    answered("delivering by a rough sheet", [&] { files.make(model, sheet, labels, {}); });
}

void change(const std::string& text, Dice& dice) {
    constexpr const char* sections[] = {"", "unit", "deliver", "motion", "nobody"};
    constexpr const char* lists[] = {"rule", "text", "answer", "file", "nobody"};
    answered("changing a sheet's text", [&] {
        platform::SheetText own(text);
        for (int i = 0; i < 6; ++i) {
            const std::string key = dice.chance(0.5) ? "name" : roughName(dice),
                              value = tomlText(roughName(dice));
            const std::size_t at = dice.below(3);
            switch (dice.below(5)) {
            case 0:
                own.set(dice.of(sections), key, value);
                break;
            case 1:
                own.set(dice.of(lists), at, key, value);
                break;
            case 2:
                own.erase(dice.of(lists), at, key);
                break;
            case 3:
                own.remove(dice.of(lists), at);
                break;
            default:
                own.add("answer", "[[answer]]\npiece = " + value + "\nwhen = \"\"\n");
            }
            mustBeDone("changing a sheet's text", "it is TOML after each change",
                       [&] { platform::SheetText{own.text()}; });
        }
    });
}

void readLines(Dice& dice) {
    std::string line = roughName(dice) + ": \"" + roughName(dice) + "\" 12:03 /a/b " + roughName(dice);
    std::erase_if(line, [](char c) { return c == '\n' || c == '\r' || c == '\0'; });
    std::vector<platform::Range> parts = platform::changingIn(line);
    for (int i = dice.between(0, 3); i-- > 0;) {
        const std::size_t from = dice.below(line.size() + 3);
        parts.push_back({from, from + dice.below(9)});
    }
    mustBeDone("a line of a log", "the pattern of a line matches it", [&] {
        if (!platform::NamePattern(platform::patternFor(line, parts)).found(line))
            throw Failure("a line of a log: its own pattern does not match: " + line);
    });
}

/// What its maker wrote beside a model, by hand: each in another way, and now and then not to the end.
std::string roughText(const std::string& title, const std::string& file, int number, Dice& dice) {
    const std::string said = tomlText(title), count = std::to_string(number);
    const std::string forms[] = {"{\"name\": " + said + ", \"n\": " + count + "}",
                                 "{ // by hand\r\n\t\"name\": " + said + ",\r\n\t\"mesh\": \"m\\\\" + file +
                                     "\",\r\n}\r\n",
                                 "<a name=" + said + "><mesh>" + file + "</mesh><n>" + count + "</n></a>\n",
                                 "; by hand\n[thing]\nname = " + title + "\nmesh=" + file + "\n",
                                 "return { name = " + said + ", {{" + count + "}}, [[" + file + "]] }",
                                 "n;name\n" + count + ";" + title + "\n"};
    std::string text = dice.of(forms);
    if (dice.chance(0.2)) text.resize(dice.below(text.size()));
    if (dice.chance(0.1)) text[dice.below(text.size())] = char(dice.below(256));
    return text;
}

/// A sheet that was learnt is one that can be read, from whatever it was learnt.
void learn(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    std::vector<OutFile> files;
    answered("files to learn from", [&] {
        constexpr const char* endings[] = {".json", ".xml", ".ini", ".lua", ".csv", ".toml"};
        const std::string ending = dice.of(endings), prefix = dice.chance(0.3) ? "SM_" : "";
        const auto style = NameStyle(dice.below(nameStyleWords().size()));
        for (int i = dice.between(1, 5); i-- > 0;) {
            const std::string title = roughName(dice),
                              stem = prefix + styledName(title, style) + std::to_string(i);
            for (OutFile& file : formats::writeGlb(model, {stem}, nullptr)) files.push_back(std::move(file));
            files.push_back({stem + ending, roughText(title, stem + ".glb", i, dice)});
            if (dice.chance(0.2)) files.push_back({stem + "-d.png", roughText(title, stem, i, dice)});
        }
        writeAllOrNone(folder, files);
    });
    learn::Evidence evidence;
    if (!answered("learning", [&] { evidence = learn::evidenceOf({folder, {}}); })) return;
    std::set<std::string> all;
    for (const auto& property : evidence.properties)
        if (property.offered) all.insert(property.id);
    mustBeDone("a learnt sheet", "it can be read, and answers go into it", [&] {
        const std::string text = learn::sheetFrom(evidence, {"rough", roughName(dice), {}, {}}, all);
        const auto sheet = platform::sheetFromText(text, folder / "rough.toml");
        platform::GameAnswer answer;
        learn::noteTraits(answer, folder);
        for (auto& [id, number] : answer.numbers) number *= 9;
        for (const auto& one : learn::differences(answer, sheet))
            if (one.limit) {
                platform::SheetText own(text);
                learn::putLimit(own, sheet, *one.limit);
                platform::sheetFromText(own.text(), folder / "rough.toml");
            }
    });
}

} // namespace

void roundOfSheet(const Model& model, Dice& dice, const std::filesystem::path& folder) {
    if (triangleCount(model) > 20000) return;
    const std::string text = roughSheet(dice);
    platform::Sheet sheet;
    const auto at = folder / "rough.toml";
    if (answered("reading a rough sheet", [&] { sheet = platform::sheetFromText(text, at); }))
        lookInto(sheet, model, dice);
    change(text, dice);
    std::string damaged = text;
    for (int i = dice.between(1, 5); i-- > 0 && !damaged.empty();)
        damaged[dice.below(damaged.size())] = char(dice.below(256));
    answered("reading a damaged sheet", [&] { platform::sheetFromText(damaged, at); });
    readLines(dice);
    if (dice.chance(0.4)) learn(model, dice, folder);
}

} // namespace torture
