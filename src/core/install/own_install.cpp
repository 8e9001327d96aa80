// What a sheet itself says is installed: docs/sheets.md.
#include "core/install/own_install.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/deliver/table_entries.h"
#include "core/install/folder_contents.h"
#include "core/install/originals.h"
#include "core/platform/name_pattern.h"
#include "core/platform/sheet.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

using platform::TableOutput;

constexpr std::string_view forms[] = {"csv", "xml", "json"};

/// How a table is written, for a journal: without it nobody could take an entry out again. `after`: the whole
/// table as it was left; `made`: the game had none.
std::string saidOf(const TableOutput& table, Hash after, bool made) {
    return jsonText(nlohmann::json{{"form", forms[std::size_t(table.form)]},
                                   {"under", table.under},
                                   {"key", table.key},
                                   {"header", table.header},
                                   {"after", fmt::format("{:016x}", after)},
                                   {"made", made}});
}

/// Whether nobody has changed a table since an installation.
bool isAsLeft(const GameFolder& game, const std::string& path, const Journal& journal) {
    const auto now = game.hashAt(path);
    return now && std::ranges::any_of(journal.additions, [&](const Journal::Addition& row) {
               return row.path == path &&
                      row.entry.find(fmt::format("\"after\":\"{:016x}\"", *now)) != std::string::npos;
           });
}

bool wasMade(const std::string& path, const Journal& journal) {
    return std::ranges::any_of(journal.additions, [&](const Journal::Addition& row) {
        return row.path == path && row.entry.find("\"made\":true") != std::string::npos;
    });
}

TableOutput tableOf(const Journal::Addition& row) {
    const auto said = parsedJson(row.entry);
    TableOutput out;
    const auto text = [&](const char* key) {
        return said.is_object() && said.contains(key) && said[key].is_string() ? said[key].get<std::string>()
                                                                               : std::string();
    };
    const auto form = std::ranges::find(forms, text("form"));
    if (form == std::end(forms) || text("key").empty())
        throw Error("an entry of a table says not how it is written", row.path, "Take it out by hand.");
    out.path = row.path, out.form = TableOutput::Form(form - std::begin(forms));
    out.under = text("under"), out.key = text("key"), out.header = text("header");
    return out;
}

/// The section that a delivered file is the table of; null for other files.
const TableOutput* tableAt(const platform::Sheet& sheet, const std::string& path) {
    for (const TableOutput& table : sheet.files.tables) {
        std::string pattern;
        std::string_view rest = table.path;
        while (!rest.empty()) {
            const std::size_t begin = std::min(rest.find('{'), rest.size()), end = rest.find('}', begin);
            pattern += platform::patternOf(rest.substr(0, begin));
            if (begin == rest.size()) break;
            pattern += "[^/]+";
            rest.remove_prefix(end == rest.npos ? rest.size() : end + 1);
        }
        if (platform::NamePattern(pattern).matches(path)) return &table;
    }
    return nullptr;
}

std::optional<std::string> tableText(const GameFolder& game, const std::string& path) {
    if (!game.hashAt(path)) return std::nullopt;
    return game.bytesAt(path);
}

/// A table as it would be without an installation.
std::string withoutRows(std::string text, const std::string& path, const Journal& journal) {
    for (const Journal::Addition& row : journal.additions) {
        if (row.kind != Journal::Addition::Kind::Row || row.path != path) continue;
        const TableOutput table = tableOf(row);
        text = row.before.empty() ? deliver::tableWithout(text, table, {row.text}, path)
                                  : deliver::tableWith(text, table, {row.before}, path);
    }
    return text;
}

bool isEmptyTable(const std::string& text, const std::string& path, const Journal& journal) {
    return std::ranges::all_of(journal.additions, [&](const Journal::Addition& row) {
        return row.kind != Journal::Addition::Kind::Row || row.path != path ||
               deliver::entriesIn(text, tableOf(row), path).empty();
    });
}

std::set<std::string> tablesOf(const Journal& journal) {
    std::set<std::string> out;
    for (const Journal::Addition& row : journal.additions)
        if (row.kind == Journal::Addition::Kind::Row) out.insert(row.path);
    return out;
}

/// Puts the entries of a delivered table into the game's.
void putRows(GameFolder& game, const std::string& path, const std::string& delivered,
             const TableOutput& table, const std::string& was, bool isNew, bool made, Journal& journal) {
    std::vector<std::string> entries, details;
    const auto rows = deliver::entriesIn(delivered, table, path);
    for (const auto& [key, entry] : rows) entries.push_back(entry), details.push_back(key);
    if (entries.empty()) return;
    std::string bytes = deliver::tableWith(isNew ? std::string() : was, table, entries, path);
    const std::string said = saidOf(table, hashText(bytes), made);
    std::map<std::string, std::string> there; // read once, however many entries come
    if (!isNew)
        for (auto& [key, entry] : deliver::entriesIn(was, table, path))
            there.try_emplace(key, std::move(entry));
    for (const auto& [key, entry] : rows) {
        const auto before = there.find(key);
        if (before != there.end())
            game.plan().notes.push_back(
                fmt::format("{} has an entry {} already; it comes back when this is taken out", path, key));
        journal.additions.push_back({Journal::Addition::Kind::Row, path, said, key,
                                     before == there.end() ? std::string() : before->second});
    }
    game.write(path, std::move(bytes), isNew ? Change::Kind::Added : Change::Kind::Extended,
               std::move(details));
}

/// A file of the game under another name, until this is taken out again.
void keep(GameFolder& game, const std::string& name, const std::string& path, Hash hash, Journal& journal) {
    const std::string kept = keptPath(name, path);
    journal.kept[kept] = hash;
    game.write(kept, game.bytesAt(path), Change::Kind::Kept);
}

} // namespace

bool saysWhere(const platform::Sheet& sheet) {
    return sheet.deliverable == ownFormat && (!sheet.files.installed.empty() || !sheet.files.tables.empty());
}

bool hasRow(const std::string& table, const Journal::Addition& row) {
    const auto entries = deliver::entriesIn(table, tableOf(row), row.path);
    return std::ranges::any_of(entries, [&](const auto& entry) { return entry.first == row.text; });
}

void asSheetSays(GameFolder& game, const platform::Sheet& sheet, const std::string& name,
                 const fs::path& delivered, const Wishes& wishes) {
    if (fileNameFrom(name) != name)
        throw Error(fmt::format("\"{}\" is no name for files of a game", name), delivered.string(),
                    fmt::format("Call it {}.", fileNameFrom(name)));
    std::error_code error;
    if (!fs::is_directory(delivered, error))
        throw Error("is no folder", delivered.string(), "Build the piece into it first.");
    const std::string& installed = sheet.files.installed;
    const bool own = installed.empty() || installed == "."; // the game's own folder
    const std::string folder =
        own ? std::string()
            : fs::path(platform::filledPath(installed, {{"name", name}, {"platform", sheet.id}}) + "/")
                  .lexically_normal()
                  .generic_string();
    const auto before = readJournal(game.path(), name);
    Journal journal = before.value_or(Journal{});
    journal.name = name, journal.format = ownFormat;
    if (before && before->format != ownFormat)
        return game.say(fmt::format("Something else is installed there as \"{}\"", name));
    journal.files.clear(), journal.additions.clear();
    std::map<std::string, std::string> tables; // as they are without what was installed before
    if (before) {
        game.refuseChanged(before->files, wishes);
        for (const std::string& path : tablesOf(*before)) {
            if (const auto text = tableText(game, path)) tables[path] = withoutRows(*text, path, *before);
            if (isAsLeft(game, path, *before) || journal.kept.erase(keptPath(name, path)) == 0) continue;
            game.leave(keptPath(name, path)); // others have changed the table since: theirs is what stays
        }
    }
    std::set<std::string> written;
    for (const OutFile& file : folderContents(delivered, game.plan().problems)) {
        if (const TableOutput* table = tableAt(sheet, file.name)) {
            game.refuseLink(file.name);
            const auto now = game.hashAt(file.name);
            const auto there =
                tables.contains(file.name) ? std::optional(tables[file.name]) : tableText(game, file.name);
            if (now && !tables.contains(file.name)) keep(game, name, file.name, *now, journal);
            const bool made = !there || (before && wasMade(file.name, *before));
            putRows(game, file.name, file.bytes, *table, there.value_or(""), !there, made, journal);
            written.insert(file.name);
            continue;
        }
        const std::string path = folder + file.name;
        game.refuseLink(path);
        const bool ours = before && before->files.contains(path);
        if (const auto there = game.hashAt(path); there && !ours) {
            journal.originals[path] = *there;
            keep(game, name, path, *there, journal);
        }
        journal.files[path] = hashText(file.bytes);
        game.write(path, file.bytes);
        written.insert(path);
    }
    if (before)
        for (const auto& [path, hash] : before->files) {
            if (written.contains(path)) continue;
            if (journal.originals.erase(path) == 0) {
                game.leave(path);
                continue;
            }
            game.write(path, game.bytesAt(keptPath(name, path))); // it is the game's own again
            game.leave(keptPath(name, path)), journal.kept.erase(keptPath(name, path));
        }
    for (const auto& [path, text] : tables)
        if (!written.contains(path)) game.write(path, text, Change::Kind::Extended);
    if (journal.files.empty() && journal.additions.empty()) game.say("There are no files to install");
    game.writeOwn(journalFile(journal));
}

void outAsItCame(GameFolder& game, const Journal& journal, const Wishes& wishes) {
    game.refuseChanged(journal.files, wishes);
    for (const std::string& path : tablesOf(journal))
        if (const auto text = tableText(game, path)) {
            const std::string kept = keptPath(journal.name, path);
            const auto known = journal.kept.find(kept);
            const bool isKept = known != journal.kept.end() && game.hashAt(kept) == known->second;
            std::vector<std::string> details;
            for (const Journal::Addition& row : journal.additions)
                if (row.path == path) details.push_back(row.text);
            if (isKept && isAsLeft(game, path, journal)) {
                game.write(path, game.bytesAt(kept), Change::Kind::Extended, std::move(details));
                continue;
            }
            std::string rest = withoutRows(*text, path, journal);
            if (wasMade(path, journal) && isEmptyTable(rest, path, journal))
                game.leave(path); // it came with this, and nobody else uses it
            else
                game.write(path, std::move(rest), Change::Kind::Extended, std::move(details));
        }
    restoreOriginals(game, journal);
    for (const auto& [path, hash] : journal.files)
        if (!journal.originals.contains(path)) game.leave(path);
}

} // namespace zl::install
