// One TOML file as a sheet: every key is known, or refused with its line.
#include "core/platform/sheet.h"

#include "core/base/file_set.h"
#include "core/base/pattern.h"
#include "core/platform/name_pattern.h"
#include "core/platform/rule.h"
#include "core/platform/sheet_known.h"
#include "core/platform/table_reader.h"

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

constexpr std::size_t mostSheetBytes = 16u << 20;

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
    static constexpr std::string_view sorts[] = {"all", "meshes", "solids"};
    const std::string of = reader.text("of", false, "all");
    reader.demandWord(table.get("of"), "sort of model", of, {std::begin(sorts), std::end(sorts)});
    rule.of = Of(std::ranges::find(sorts, of) - std::begin(sorts));
    rule.message = reader.text("message");
    rule.mends = reader.words("mend", "step", words.steps);
    for (const LimitName& limit : kind->limits)
        if (const toml::node* node = reader.get(std::string(limit.name), limit.required))
            rule.limits[std::string(limit.name)] = reader.number(node, std::string(limit.name));
    for (const auto& [name, required, unit] : kind->texts) {
        const std::string text = reader.text(std::string(name), required);
        try {
            if (name == "pattern") NamePattern{text};
        } catch (const Error&) {
            reader.fail(table.get(name), fmt::format("\"{}\" is not a pattern", text),
                        "a POSIX regular expression such as [a-z0-9_]{1,31}");
        }
        if (name == "formats")
            for (const std::string& id : patternsFrom(text))
                reader.demandWord(table.get(name), "kind of picture", id, words.pictureFormats);
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

/// `[cost]` and `[[quality]]`.
SheetCost readCost(TableReader& root, const fs::path& file) {
    SheetCost out;
    if (const toml::table* table = root.table("cost", false)) {
        TableReader cost(*table, file);
        for (const auto& [name, member] : {std::pair("memory-megabytes", &SheetCost::memoryMegabytes),
                                           {"upload-megabytes", &SheetCost::uploadMegabytes},
                                           {"copy-bytes", &SheetCost::copyBytes},
                                           {"frame-milliseconds", &SheetCost::frameMillis},
                                           {"triangles-a-millisecond", &SheetCost::trianglesPerMilli},
                                           {"pixels-a-millisecond", &SheetCost::pixelsPerMilli}})
            if (cost.get(name, false)) out.*member = cost.positive(name);
        if (const std::string file = cost.text("mesh-file", false); !file.empty()) {
            if (file != "obj" && file != "glb")
                cost.fail(table->get("mesh-file"), fmt::format("\"{}\" is not known", file),
                          "\"obj\" or \"glb\"");
            out.meshFile = file == "glb" ? MeshFile::Glb : MeshFile::Obj;
        }
        cost.refuseOthers();
    }
    for (const toml::table* table : root.tables("quality", false)) {
        TableReader quality(*table, file);
        SheetCost::Quality level{quality.text("name")};
        const double edge = quality.positive("picture-edge");
        if (edge > 32768 || edge < 1)
            quality.fail(table->get("picture-edge"), "no picture is so large", "1 to 32768");
        level.edge = int(edge);
        level.usual = quality.flag("usual", false);
        quality.refuseOthers();
        out.qualities.push_back(std::move(level));
    }
    return out;
}

/// Any names, each with true, false, a number or a text.
MaterialSettings readSettings(const toml::table& table, const fs::path& file) {
    TableReader settings(table, file);
    MaterialSettings out;
    for (const auto& [key, node] : table) {
        const std::string name(key.str());
        settings.get(name, true);
        if (node.is_boolean())
            out[name] = node.as_boolean()->get();
        else if (node.is_string())
            out[name] = node.as_string()->get();
        else
            out[name] = settings.number(&node, name);
    }
    return out;
}

SheetLevels readLevels(const toml::table& table, const std::filesystem::path& file) {
    TableReader levels(table, file);
    SheetLevels out{levels.text("name")};
    if (out.name.find("{name}") == std::string::npos || out.name.find("{n}") == std::string::npos)
        levels.fail(table.get("name"), "levels could not be told apart", "a name with {name} and {n} in it");
    const std::string as = levels.text("as", false, "files");
    levels.demandWord(table.get("as"), "way of writing levels", as, {"files", "nodes"});
    out.as = as == "nodes" ? SheetLevels::As::Nodes : SheetLevels::As::Files;
    levels.refuseOthers();
    return out;
}

} // namespace

Sheet readSheet(const fs::path& file, const Vocabulary& words) {
    return sheetFromText(readText(file, mostSheetBytes), file, words);
}

Sheet sheetFromText(const std::string& text, const fs::path& file, const Vocabulary& words) {
    const toml::table root = parsedTable(text, file);
    TableReader reader(root, file);
    Sheet sheet;
    sheet.file = file;
    // A later program may write what is not known here: that is said before any word of it is.
    if (const toml::node* node = reader.get("made-for", false)) {
        const double version = reader.number(node, "made-for");
        if (version > sheetVersion)
            reader.fail(node, fmt::format("the sheet is made for version {} of sheets", version),
                        fmt::format("one of version {} or before; a newer Zest Loom reads it", sheetVersion));
    }
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
        sheet.figureBones = figure.texts("bones");
        figure.refuseOthers();
    }
    if (const toml::table* table = reader.table("deliver", false)) {
        TableReader deliver(*table, file);
        sheet.deliverable = deliver.text("kind");
        deliver.demandWord(table->get("kind"), "deliverable", sheet.deliverable, words.deliverables);
        sheet.sizes = deliver.texts("sizes");
        sheet.files = readFiles(reader, file, words);
        sheet.files.name = deliver.text("name", false);
        sheet.files.packed = deliver.text("packed", false);
        if (const std::string& path = sheet.files.packed;
            !path.empty() && !path.ends_with(".zip") && !path.ends_with(".7z"))
            deliver.fail(table->get("packed"), fmt::format("\"{}\" is no archive that is written", path),
                         "a name that ends in .zip or .7z");
        sheet.files.installed = deliver.text("installed", false);
        deliver.refuseOthers();
        const bool ownFiles = sheet.deliverable == "files";
        if (ownFiles == sheet.files.empty())
            deliver.fail(table->get("kind"),
                         ownFiles ? "no file is named" : "files are named and something else delivers",
                         ownFiles ? "a [[file]] or [[text]] section" : "kind = \"files\"");
    }
    if (const toml::table* table = reader.table("importer", false)) {
        TableReader importer(*table, file);
        sheet.importerFactor = importer.positive("multiplies");
        importer.refuseOthers();
    }
    for (const toml::table* leg : reader.tables("leg", false))
        sheet.chain.push_back(readLeg(*leg, file, words));
    for (const toml::table* table : reader.tables("prefix", false)) {
        TableReader prefix(*table, file);
        sheet.prefixes.push_back({prefix.text("code"), prefix.text("means")});
        prefix.refuseOthers();
    }
    for (const toml::table* table : reader.tables("ending", false)) {
        TableReader ending(*table, file);
        readEnding(ending, sheet.endings);
    }
    for (const toml::table* table : reader.tables("picture", false)) {
        TableReader picture(*table, file);
        sheet.surface.pictures.push_back(readPicture(picture, words));
    }
    if (const toml::table* table = reader.table("material", false)) {
        TableReader material(*table, file);
        sheet.surface.materialName = material.text("name");
        if (sheet.surface.materialName.find("{name}") == std::string::npos)
            material.fail(table->get("name"), "every material would be called the same",
                          "a name with {name} in it");
        material.refuseOthers();
    }
    if (const toml::table* table = reader.table("settings", false))
        sheet.surface.settings = readSettings(*table, file);
    if (const toml::table* table = reader.table("motion", false)) {
        TableReader motion(*table, file);
        sheet.slots = motion.texts("slots");
        if (std::set<std::string>(sheet.slots.begin(), sheet.slots.end()).size() != sheet.slots.size())
            motion.fail(table->get("slots"), "a slot stands here twice", "each slot once");
        motion.refuseOthers();
    }
    if (const toml::table* table = reader.table("levels", false)) sheet.levels = readLevels(*table, file);
    if (const toml::table* table = reader.table("companion", false)) {
        TableReader companion(*table, file);
        sheet.surface.companion = companion.text("ending");
        companion.refuseOthers();
    }
    sheet.touch = readContact(reader, file);
    sheet.blocks = readBlocks(reader, file);
    if (const toml::table* table = reader.table("world", false)) {
        TableReader world(*table, file);
        sheet.world.traits = world.texts("traits");
        if (world.get("collision-files", false))
            sheet.world.collisionFiles = int(std::min(1e6, world.positive("collision-files")));
        world.refuseOthers();
    }
    sheet.cost = readCost(reader, file);
    if (const toml::table* table = reader.table("try", false)) {
        TableReader tries(*table, file);
        sheet.standIn = tries.text("kind");
        tries.demandWord(table->get("kind"), "stand-in", sheet.standIn, words.standIns);
        tries.refuseOthers();
    }
    std::set<std::string> ids;
    for (const toml::table* table : reader.tables("rule", true)) {
        sheet.rules.push_back(readRule(*table, file, words));
        if (!ids.insert(sheet.rules.back().id).second)
            reader.fail(table, fmt::format("the rule \"{}\" stands here twice", sheet.rules.back().id),
                        "an id of its own for each rule");
    }
    readKnown(reader, file, words, sheet);
    sheet.edition = reader.text("edition", false);
    sheet.notes = reader.text("notes", false);
    reader.refuseOthers();
    return sheet;
}

} // namespace zl::platform
