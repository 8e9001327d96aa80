#include "core/platform/sheet_known.h"

#include "core/base/toml_text.h"
#include "core/base/words.h"
#include "core/platform/name_pattern.h"
#include "core/platform/table_reader.h"

#include <fmt/format.h>

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

/// A table of values by name; empty where there is none.
template <class Value>
std::map<std::string, Value> valuesIn(TableReader& reader, const std::string& key, const char* wanted) {
    std::map<std::string, Value> out;
    const toml::node* node = reader.get(key, false);
    if (!node) return out;
    if (!node->is_table()) reader.fail(node, fmt::format("\"{}\" is no table", key), "{ name = value }");
    for (const auto& [name, value] : *node->as_table()) {
        const auto held = value.template value<Value>();
        if (!held) reader.fail(&value, fmt::format("\"{}\" is not {}", name.str(), wanted), wanted);
        out[std::string(name.str())] = *held;
    }
    return out;
}

std::string listed(const std::vector<std::string>& texts) {
    std::vector<std::string> quoted;
    for (const std::string& text : texts) quoted.push_back(tomlText(text));
    return "[" + inARow(quoted) + "]";
}

template <class Value>
std::string listed(const std::map<std::string, Value>& values) {
    std::vector<std::string> out;
    for (const auto& [name, value] : values) {
        if constexpr (std::is_same_v<Value, double>)
            out.push_back(tomlKey(name) + " = " + tomlNumber(value));
        else
            out.push_back(tomlKey(name) + " = " + tomlText(value));
    }
    return "{ " + inARow(out) + " }";
}

} // namespace

void readKnown(TableReader& root, const fs::path& file, const Vocabulary& words, Sheet& sheet) {
    for (const toml::table* table : root.tables("evidence", false)) {
        TableReader reader(*table, file);
        SheetEvidence one{reader.text("of"), reader.text("said")};
        for (const auto& [key, member] :
             {std::pair("files", &SheetEvidence::files), {"refused", &SheetEvidence::refused}})
            if (const toml::node* node = reader.get(key, false))
                one.*member = std::size_t(std::clamp(reader.number(node, key), 0.0, 1e9));
        for (const auto& [key, member] : {std::pair("least", &SheetEvidence::least),
                                          {"middle", &SheetEvidence::middle},
                                          {"most", &SheetEvidence::most}})
            if (const toml::node* node = reader.get(key, false)) one.*member = reader.number(node, key);
        one.names = reader.texts("names");
        reader.refuseOthers();
        sheet.evidence.push_back(std::move(one));
    }
    for (const toml::table* table : root.tables("answer", false)) {
        TableReader reader(*table, file);
        GameAnswer one{reader.text("piece"), reader.text("when"), reader.flag("accepted", false)};
        one.because = reader.text("because", false);
        one.note = reader.text("note", false);
        one.limit = reader.text("limit", false);
        one.numbers = valuesIn<double>(reader, "numbers", "a number");
        one.words = valuesIn<std::string>(reader, "words", "a text");
        reader.refuseOthers();
        sheet.answers.push_back(std::move(one));
    }
    std::vector<std::string_view> rules;
    for (const RuleSpec& rule : sheet.rules) rules.push_back(rule.id);
    for (const toml::table* table : root.tables("log", false)) {
        TableReader reader(*table, file);
        LogPattern one{reader.text("pattern"), reader.text("says")};
        try {
            NamePattern{one.pattern};
        } catch (const Error&) {
            reader.fail(table->get("pattern"), fmt::format("\"{}\" is not a pattern", one.pattern),
                        "a POSIX regular expression");
        }
        one.rule = reader.text("rule", false);
        if (!one.rule.empty()) reader.demandWord(table->get("rule"), "rule of this sheet", one.rule, rules);
        one.mends = reader.words("mend", "step", words.steps);
        one.refuses = reader.flag("refuses", true);
        reader.refuseOthers();
        sheet.log.push_back(std::move(one));
    }
}

std::string evidenceSection(const SheetEvidence& known) {
    std::string out = fmt::format("[[evidence]]\nof = {}\nsaid = {}\nfiles = {}\n", tomlText(known.of),
                                  tomlText(known.said), known.files);
    if (known.refused > 0) out += fmt::format("refused = {}\n", known.refused);
    if (known.least) out += fmt::format("least = {}\n", tomlNumber(*known.least));
    if (known.middle) out += fmt::format("middle = {}\n", tomlNumber(*known.middle));
    if (known.most) out += fmt::format("most = {}\n", tomlNumber(*known.most));
    return out + fmt::format("names = {}\n\n", listed(known.names));
}

std::string answerSection(const GameAnswer& answer) {
    std::string out = fmt::format("[[answer]]\npiece = {}\nwhen = {}\naccepted = {}\n",
                                  tomlText(answer.piece), tomlText(answer.when), answer.accepted);
    if (!answer.because.empty()) out += fmt::format("because = {}\n", tomlText(answer.because));
    if (!answer.note.empty()) out += fmt::format("note = {}\n", tomlText(answer.note));
    if (!answer.limit.empty()) out += fmt::format("limit = {}\n", tomlText(answer.limit));
    if (!answer.numbers.empty()) out += fmt::format("numbers = {}\n", listed(answer.numbers));
    if (!answer.words.empty()) out += fmt::format("words = {}\n", listed(answer.words));
    return out + "\n";
}

std::string logSection(const LogPattern& pattern) {
    std::string out =
        fmt::format("[[log]]\npattern = {}\nsays = {}\n", tomlText(pattern.pattern), tomlText(pattern.says));
    if (!pattern.rule.empty()) out += fmt::format("rule = {}\n", tomlText(pattern.rule));
    if (!pattern.mends.empty()) out += fmt::format("mend = {}\n", listed(pattern.mends));
    if (!pattern.refuses) out += "refuses = false\n";
    return out + "\n";
}

} // namespace zl::platform
