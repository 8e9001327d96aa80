// What a sheet itself says is installed: docs/sheets.md.
#include "core/install/own_install.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/deliver/table_entries.h"
#include "core/install/folder_contents.h"
#include "core/install/originals.h"
#include "core/platform/delivered_path.h"
#include "core/platform/sheet.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

using platform::TableOutput;

/// Whether nobody has changed a table since an installation.
bool isAsLeft(const GameFolder& game, const std::string& path, const Journal& journal) {
    const auto now = game.hashAt(path);
    const auto known = journal.tables.find(path);
    return now && known != journal.tables.end() && known->second.after == *now;
}

bool wasMade(const std::string& path, const Journal& journal) {
    const auto known = journal.tables.find(path);
    return known != journal.tables.end() && known->second.made;
}

/// A table's section as far as a journal keeps it: rows that come back are in the table's own columns.
TableOutput tableOf(const std::string& path, const Journal& journal) {
    const Journal::Table& table = journal.tables.at(path);
    const auto form = std::ranges::find(Journal::tableForms, table.form);
    return {.path = path,
            .form = TableOutput::Form(form - std::begin(Journal::tableForms)),
            .under = table.under,
            .key = table.key};
}

/// The section that a delivered file is the table of; null for other files.
const TableOutput* tableAt(const platform::Sheet& sheet, const std::string& path) {
    const auto found = std::ranges::find_if(sheet.files.tables, [&](const TableOutput& table) {
        return matchPattern(platform::pathPattern(table.path), path).has_value();
    });
    return found == sheet.files.tables.end() ? nullptr : &*found;
}

std::optional<std::string> tableText(const GameFolder& game, const std::string& path) {
    if (!game.hashAt(path)) return std::nullopt;
    return game.bytesAt(path);
}

/// A table as it would be without an installation.
std::string withoutRows(const std::string& text, const std::string& path, const Journal& journal) {
    std::vector<std::string> going, coming;
    for (const Journal::Addition& row : journal.additions) {
        if (row.kind != Journal::Addition::Kind::Row || row.path != path) continue;
        going.push_back(row.text);
        if (!row.before.empty()) coming.push_back(row.before);
    }
    const TableOutput table = tableOf(path, journal);
    const std::string rest = deliver::tableWithout(text, table, going, path);
    return coming.empty() ? rest : deliver::tableWith(rest, table, coming, path);
}

/// Puts the entries of a delivered table into the game's. `was`: without what was installed before, empty for
/// none; `earlier`: with it.
void putRows(GameFolder& game, const std::string& delivered, const TableOutput& table, const std::string& was,
             const std::string& earlier, bool made, Journal& journal) {
    const std::string& path = table.path;
    std::vector<std::string> entries;
    std::set<std::string> keys;
    for (const auto& [key, entry, number] : deliver::entriesIn(delivered, table, path))
        entries.push_back(entry), keys.insert(key);
    if (entries.empty()) return;
    std::string bytes = deliver::tableWith(was, table, entries, path, earlier);
    journal.tables[path] = {std::string(Journal::tableForms[std::size_t(table.form)]), table.under, table.key,
                            hashText(bytes), made};
    std::map<std::string, std::string> there;
    if (!was.empty())
        for (auto& entry : deliver::entriesIn(was, table, path))
            there.try_emplace(std::move(entry.key), std::move(entry.text));
    std::vector<std::string> details;
    for (const auto& [key, entry, number] : deliver::entriesIn(bytes, table, path)) {
        if (!keys.erase(key)) continue;
        const auto before = there.find(key);
        if (before != there.end())
            game.plan().notes.push_back(
                fmt::format("{} has an entry {} already; it comes back when this is taken out", path, key));
        journal.additions.push_back({Journal::Addition::Kind::Row,
                                     path,
                                     {},
                                     key,
                                     before == there.end() ? std::string() : before->second});
        details.push_back(number ? fmt::format("{}, number {}", key, *number) : key);
    }
    game.write(path, std::move(bytes), was.empty() ? Change::Kind::Added : Change::Kind::Extended,
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

std::vector<std::string> rowsIn(const std::string& text, const std::string& path, const Journal& journal) {
    std::set<std::string> there;
    for (const auto& entry : deliver::entriesIn(text, tableOf(path, journal), path)) there.insert(entry.key);
    std::vector<std::string> out;
    for (const Journal::Addition& row : journal.additions)
        if (row.kind == Journal::Addition::Kind::Row && row.path == path && there.contains(row.text))
            out.push_back(row.text);
    return out;
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
    journal.files.clear(), journal.additions.clear(), journal.tables.clear();
    std::map<std::string, std::string> tables; // as they are without what was installed before
    if (before) {
        game.refuseChanged(before->files, wishes);
        for (const auto& [path, table] : before->tables) {
            if (const auto text = tableText(game, path)) tables[path] = withoutRows(*text, path, *before);
            if (isAsLeft(game, path, *before) || journal.kept.erase(keptPath(name, path)) == 0) continue;
            game.leave(keptPath(name, path)); // others have changed the table since: theirs is what stays
        }
    }
    std::set<std::string> written;
    for (const OutFile& file : folderContents(delivered, game.plan().problems)) {
        if (const TableOutput* table = tableAt(sheet, file.name)) {
            game.refuseLink(file.name);
            const auto now = tableText(game, file.name);
            const auto without = tables.find(file.name);
            const auto there = without == tables.end() ? now : without->second;
            if (now && without == tables.end()) keep(game, name, file.name, hashText(*now), journal);
            const bool made = !there || (before && wasMade(file.name, *before));
            TableOutput own = *table;
            own.path = file.name;
            putRows(game, file.bytes, own, there.value_or(""), now.value_or(""), made, journal);
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
    for (const auto& [path, table] : journal.tables)
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
            if (table.made && deliver::entriesIn(rest, tableOf(path, journal), path).empty())
                game.leave(path); // it came with this, and nobody else uses it
            else
                game.write(path, std::move(rest), Change::Kind::Extended, std::move(details));
        }
    restoreOriginals(game, journal);
    for (const auto& [path, hash] : journal.files)
        if (!journal.originals.contains(path)) game.leave(path);
}

} // namespace zl::install
