#include "core/platform/sheet.h"

#include "core/base/data_folder.h"
#include "core/base/error.h"
#include "core/base/words.h"
#include "core/platform/name_pattern.h"
#include "core/platform/rule.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <set>

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

/// A TOML table that is asked for every key it may have, and then complains about the rest.
class TableReader {
public:
    TableReader(const toml::table& table, const fs::path& file) : table_(table), file_(file) {}

    [[noreturn]] void fail(const toml::node* node, const std::string& what,
                           const std::string& expected) const {
        const auto line = (node ? node->source() : table_.source()).begin.line;
        throw Error(what, fmt::format("{}:{}", file_.string(), line), "Expected " + expected + ".");
    }
    const toml::node* get(const std::string& key, bool required) {
        asked_.insert(key);
        const toml::node* node = table_.get(key);
        if (!node && required)
            fail(nullptr, fmt::format("\"{}\" is missing", key), fmt::format("a line `{} = …` here", key));
        return node;
    }
    std::string text(const std::string& key, bool required = true, std::string fallback = {}) {
        const toml::node* node = get(key, required);
        if (!node) return fallback;
        if (!node->is_string())
            fail(node, fmt::format("\"{}\" is not a text", key), "text in quotation marks");
        std::string value = node->as_string()->get();
        if (required && value.empty()) fail(node, fmt::format("\"{}\" is empty", key), "some text");
        return value;
    }
    double number(const toml::node* node, const std::string& key) {
        const auto value = node->value<double>();
        if (!value || !std::isfinite(*value))
            fail(node, fmt::format("\"{}\" is not a number", key), "a number");
        return *value;
    }
    double positive(const std::string& key) {
        const toml::node* node = get(key, true);
        const double value = number(node, key);
        if (value <= 0) fail(node, fmt::format("\"{}\" is {}", key, value), "a number above zero");
        return value;
    }
    std::vector<std::string> texts(const std::string& key) {
        const toml::node* node = get(key, false);
        std::vector<std::string> out;
        if (!node) return out;
        if (!node->is_array())
            fail(node, fmt::format("\"{}\" is not a list", key), "a list like [\"one\", \"two\"]");
        for (const toml::node& entry : *node->as_array()) {
            if (!entry.is_string())
                fail(&entry, fmt::format("\"{}\" holds something else than texts", key),
                     "texts in quotation marks");
            out.push_back(entry.as_string()->get());
        }
        return out;
    }
    /// Fails over a word that is not among those known, naming the nearest; an empty list knows everything.
    void demandWord(const toml::node* node, std::string_view kind, const std::string& word,
                    const std::vector<std::string_view>& known) const {
        if (known.empty() || std::ranges::find(known, word) != known.end()) return;
        const std::string_view near = nearestWord(word, known);
        fail(node, fmt::format("there is no {} \"{}\"", kind, word),
             (near.empty() ? "one of " : fmt::format("\"{}\" perhaps, or one of ", near)) + inARow(known));
    }
    /// The same for every word of a list.
    std::vector<std::string> words(const std::string& key, std::string_view kind,
                                   const std::vector<std::string_view>& known) {
        auto list = texts(key);
        for (std::size_t i = 0; i < list.size(); ++i)
            demandWord(table_.get(key)->as_array()->get(i), kind, list[i], known);
        return list;
    }
    const toml::table* table(const std::string& key, bool required) {
        const toml::node* node = get(key, required);
        if (node && !node->is_table())
            fail(node, fmt::format("\"{}\" is not a table", key), fmt::format("a section [{}]", key));
        return node ? node->as_table() : nullptr;
    }
    void refuseOthers() const {
        for (const auto& [key, node] : table_)
            if (!asked_.contains(std::string(key.str()))) {
                fail(&node, fmt::format("\"{}\" is not known here", key.str()), "one of " + inARow(asked_));
            }
    }

private:
    const toml::table& table_;
    const fs::path& file_;
    std::set<std::string> asked_;
};

RuleSpec readRule(const toml::table& table, const fs::path& file, const Vocabulary& words) {
    TableReader reader(table, file);
    RuleSpec rule;
    rule.id = reader.text("id");
    rule.check = reader.text("check", false, rule.id);
    std::vector<std::string_view> checks;
    for (const RuleKind& known : allRuleKinds()) checks.push_back(known.check);
    reader.demandWord(table.get("check") ? table.get("check") : table.get("id"), "rule", rule.check, checks);
    const RuleKind* kind = ruleKind(rule.check);
    rule.label = reader.text("label");
    const std::string severity = reader.text("severity", false, "must");
    if (severity != "must" && severity != "should")
        reader.fail(table.get("severity"), fmt::format("severity is \"{}\"", severity),
                    "\"must\" or \"should\"");
    rule.severity = severity == "must" ? Severity::Must : Severity::Should;
    rule.message = reader.text("message");
    rule.mends = reader.words("mend", "step", words.steps);
    for (const LimitName& limit : kind->limits)
        if (const toml::node* node = reader.get(std::string(limit.name), limit.required))
            rule.limits[std::string(limit.name)] = reader.number(node, std::string(limit.name));
    for (const std::string_view name : kind->texts) {
        const std::string text = reader.text(std::string(name));
        try {
            if (name == "pattern") NamePattern{text};
        } catch (const Error&) {
            reader.fail(table.get(name), fmt::format("\"{}\" is not a pattern", text),
                        "a POSIX regular expression such as [a-z0-9_]{1,31}");
        }
        rule.texts[std::string(name)] = text;
    }
    reader.refuseOthers();
    return rule;
}

Leg readLeg(const toml::table& table, const fs::path& file, const Vocabulary& words) {
    TableReader reader(table, file);
    Leg leg;
    leg.format = reader.text("format");
    reader.demandWord(table.get("format"), "format that can be written", leg.format, words.formats);
    if (const toml::node* unit = reader.get("metres", false)) {
        leg.metresPerUnit = reader.number(unit, "metres");
        if (leg.metresPerUnit <= 0) reader.fail(unit, "\"metres\" is not above zero", "a number above zero");
    }
    leg.up = reader.text("up", false);
    if (!leg.up.empty() && leg.up != "Y" && leg.up != "Z")
        reader.fail(table.get("up"), fmt::format("up is \"{}\"", leg.up), "\"Y\" or \"Z\"");
    leg.loses = reader.words("loses", "aspect", words.aspects);
    leg.changes = reader.words("changes", "aspect", words.aspects);
    leg.note = reader.text("note", false);
    reader.refuseOthers();
    return leg;
}

} // namespace

double RuleSpec::limit(const std::string& name, double fallback) const {
    const auto found = limits.find(name);
    return found == limits.end() ? fallback : found->second;
}

const RuleSpec* Sheet::rule(std::string_view wanted) const {
    for (const RuleSpec& rule : rules)
        if (rule.id == wanted) return &rule;
    return nullptr;
}

std::vector<const RuleSpec*> Sheet::rulesOf(std::string_view check) const {
    std::vector<const RuleSpec*> out;
    for (const RuleSpec& rule : rules)
        if (rule.check == check) out.push_back(&rule);
    return out;
}

std::string Sheet::showLength(double metres) const {
    const double value = metres / metresPerUnit;
    const double size = std::abs(value);
    return showNumber(value, size >= 100 ? 1 : size >= 1 ? 2 : 3) + "\u202f" + unitName;
}

std::string Sheet::showBoth(double metres) const {
    const double size = std::abs(metres);
    const Unit& known = unitNamed(size < 0.1 ? "mm" : size < 1 ? "cm" : "m");
    if (std::abs(known.metres - metresPerUnit) < 1e-12) return showLength(metres);
    return fmt::format("{} ({}\u202f{})", showLength(metres), showMeasure(metres / known.metres), known.id);
}

std::string Sheet::importerWords() const {
    if (importerFactor == 1) return {};
    return fmt::format("Written in {}; {} multiplies by {}", unitOfMetres(fileMetresPerUnit()).name, name,
                       showNumber(importerFactor));
}

Sheet readSheet(const fs::path& file, const Vocabulary& words) {
    toml::table root;
    try {
        root = toml::parse_file(file.string());
    } catch (const toml::parse_error& problem) {
        throw Error(std::string(problem.description()),
                    fmt::format("{}:{}", file.string(), problem.source().begin.line),
                    "Expected TOML: `key = value` lines and [sections].");
    }
    TableReader reader(root, file);
    Sheet sheet;
    sheet.file = file;
    sheet.id = reader.text("id");
    if (!std::ranges::all_of(sheet.id,
                             [](unsigned char c) { return std::islower(c) || std::isdigit(c) || c == '-'; }))
        reader.fail(root.get("id"), fmt::format("the id \"{}\" has other characters", sheet.id),
                    "lower-case letters, digits and hyphens");
    sheet.name = reader.text("name");
    sheet.kind = reader.text("kind");
    sheet.about = reader.text("about", false);
    {
        TableReader unit(*reader.table("unit", true), file);
        sheet.unitName = unit.text("name");
        sheet.metresPerUnit = unit.positive("metres");
        unit.refuseOthers();
    }
    {
        const toml::table& table = *reader.table("axes", true);
        TableReader axes(table, file);
        const std::string up = axes.text("up");
        if (up != "Y" && up != "Z")
            axes.fail(table.get("up"), fmt::format("up is \"{}\"", up), "\"Y\" or \"Z\"");
        sheet.up = up == "Y" ? Up::Y : Up::Z;
        sheet.front = axes.text("front");
        static const std::set<std::string> fronts{"+X", "-X", "+Y", "-Y", "+Z", "-Z"};
        if (!fronts.contains(sheet.front) || sheet.front.substr(1) == up)
            axes.fail(table.get("front"), fmt::format("front is \"{}\"", sheet.front),
                      "an axis with its sign, other than up, like \"+X\"");
        axes.refuseOthers();
    }
    {
        TableReader figure(*reader.table("figure", true), file);
        sheet.figureHeight = figure.positive("height");
        figure.refuseOthers();
    }
    if (const toml::table* table = reader.table("deliver", false)) {
        TableReader deliver(*table, file);
        sheet.deliverable = deliver.text("kind");
        deliver.demandWord(table->get("kind"), "deliverable", sheet.deliverable, words.deliverables);
        sheet.finishes = deliver.texts("finishes");
        deliver.refuseOthers();
    }
    if (const toml::table* table = reader.table("importer", false)) {
        TableReader importer(*table, file);
        sheet.importerFactor = importer.positive("multiplies");
        importer.refuseOthers();
    }
    if (const toml::node* legs = reader.get("leg", false)) {
        if (!legs->is_array_of_tables())
            reader.fail(legs, "\"leg\" is not a list of sections", "sections headed [[leg]]");
        for (const toml::node& entry : *legs->as_array())
            sheet.chain.push_back(readLeg(*entry.as_table(), file, words));
    }
    sheet.standIn = reader.text("stand-in", false);
    if (!sheet.standIn.empty())
        reader.demandWord(root.get("stand-in"), "stand-in", sheet.standIn, words.standIns);
    const toml::node* rules = reader.get("rule", true);
    if (!rules->is_array_of_tables())
        reader.fail(rules, "\"rule\" is not a list of sections", "sections headed [[rule]]");
    std::set<std::string> ids;
    for (const toml::node& entry : *rules->as_array()) {
        sheet.rules.push_back(readRule(*entry.as_table(), file, words));
        if (!ids.insert(sheet.rules.back().id).second)
            reader.fail(&entry, fmt::format("the rule \"{}\" stands here twice", sheet.rules.back().id),
                        "an id of its own for each rule");
    }
    reader.refuseOthers();
    return sheet;
}

namespace {

std::vector<fs::path> sheetFolders(const fs::path& projectFolder) {
    std::vector<fs::path> folders;
    std::error_code error;
    // Installed first; in a build tree the sources' own folder stands in for it. A packaged program may sit
    // under another prefix than the one it was configured for, so its own place is asked too.
    const fs::path program = fs::read_symlink("/proc/self/exe", error);
    const fs::path beside =
        program.empty() ? fs::path() : program.parent_path() / "../share/zest-loom/platforms";
    for (const fs::path& shipped :
         {beside, fs::path(ZEST_LOOM_SHEETS_SOURCE), fs::path(ZEST_LOOM_SHEETS_INSTALLED)})
        if (fs::is_directory(shipped, error)) {
            folders.push_back(shipped);
            break;
        }
    if (const fs::path own = dataFolder(); !own.empty()) folders.push_back(own / "platforms");
    if (!projectFolder.empty()) folders.push_back(projectFolder / "platforms");
    return folders;
}

} // namespace

std::vector<std::shared_ptr<const Sheet>>
loadSheets(const fs::path& projectFolder, std::vector<std::string>* problems, const Vocabulary& words) {
    std::vector<std::shared_ptr<const Sheet>> sheets;
    for (const fs::path& folder : sheetFolders(projectFolder)) {
        std::error_code error;
        std::vector<fs::path> files;
        for (const auto& entry : fs::directory_iterator(folder, error))
            if (entry.path().extension() == ".toml") files.push_back(entry.path());
        std::ranges::sort(files);
        for (const fs::path& file : files) {
            try {
                auto sheet = std::make_shared<const Sheet>(readSheet(file, words));
                const auto same =
                    std::ranges::find_if(sheets, [&](const auto& s) { return s->id == sheet->id; });
                if (same != sheets.end())
                    *same = sheet;
                else
                    sheets.push_back(sheet);
            } catch (const Error& problem) {
                if (problems) problems->push_back(problem.whole());
            }
        }
    }
    return sheets;
}

std::shared_ptr<const Sheet> sheetNamed(const std::vector<std::shared_ptr<const Sheet>>& sheets,
                                        std::string_view id) {
    for (const auto& sheet : sheets)
        if (sheet->id == id) return sheet;
    const std::string all = inARow(sheets, [](const auto& sheet) -> const std::string& { return sheet->id; });
    throw Error(fmt::format("there is no platform \"{}\"", id), {},
                all.empty() ? "No platform sheets were found: install the program again, or put sheets into "
                              "a folder \"platforms\" beside the project."
                            : "Use one of " + all + ".");
}

} // namespace zl::platform
