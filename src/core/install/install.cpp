#include "core/install/install.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/words.h"
#include "core/install/city_install.h"
#include "core/install/own_install.h"
#include "core/install/shelf.h"
#include "core/install/zip_records.h"
#include "core/platform/sheet.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

/// Ends what a killed program began where deliveries go; the rest of a game is large and none of ours.
void finishIn(const fs::path& game) {
    finishWriting(game);
    finishShelves(game);
    const fs::path journals = (game / journalPath("any")).parent_path();
    finishWritingBelow(journals);
    std::error_code ignored;
    fs::remove(journals, ignored); // goes where nothing is in it
}

void refuseWithin(GameFolder& game, const fs::path& delivered) {
    std::error_code error;
    if (fs::weakly_canonical(delivered, error)
            .string()
            .starts_with(fs::weakly_canonical(game.path(), error).string() + "/"))
        game.say(fmt::format("{} lies in the game's own folder", delivered.string()));
}

} // namespace

void Prepared::carryOut(const Progress& progress) const {
    if (!plan_.problems.empty()) throw Refused(plan_.problems[0], game_.string(), "Nothing was changed.");
    progress.report(0.4, "writing");
    progress.checkCancel();
    writeAllOrNone(game_, writes_, leaving_);
    using std::filesystem::perms;
    std::error_code ignored;
    for (const std::string& path : writable_)
        fs::permissions(game_ / path, perms::owner_write, fs::perm_options::add, ignored);
    for (const std::string& path : readOnly_)
        fs::permissions(game_ / path, perms::owner_write | perms::group_write | perms::others_write,
                        fs::perm_options::remove, ignored);
    progress.report(0.8, "reading back");
    for (const OutFile& file : writes_)
        if (readText(game_ / file.name, mostGameBytes) != file.bytes)
            throw Error("does not hold what was written", (game_ / file.name).string(),
                        "Something else writes there too; install again when it has ended.");
}

Prepared prepared(const fs::path& delivered, const fs::path& game, const Wishes& wishes) {
    GameFolder folder(game, [&] { finishIn(game); });
    std::error_code error;
    if (!fs::is_directory(delivered, error))
        throw Error("is no folder", delivered.string(), "Build the piece into it first.");
    if (const auto object = cityDelivery(delivered)) {
        folder.plan().name = object->name;
        refuseWithin(folder, delivered);
        intoCity(folder, *object, wishes);
    } else if (const auto what = shelfDelivery(delivered)) {
        folder.plan().name = what->name;
        refuseWithin(folder, delivered);
        ontoShelf(folder, *what, delivered, wishes);
    } else {
        throw Error("holds no delivery that can be installed", delivered.string(),
                    "Build the piece into it first.");
    }
    folder.refuseWithoutRoom();
    return folder.take();
}

Prepared preparedFor(const platform::Sheet& sheet, const std::string& name, const fs::path& delivered,
                     const fs::path& game, const Wishes& wishes) {
    if (!saysWhere(sheet)) return prepared(delivered, game, wishes);
    GameFolder folder(game, [&] { finishIn(game); });
    folder.plan().name = name;
    refuseWithin(folder, delivered);
    asSheetSays(folder, sheet, name, delivered, wishes);
    folder.refuseWithoutRoom();
    return folder.take();
}

Prepared preparedOut(const fs::path& game, const std::string& name, const Wishes& wishes) {
    GameFolder folder(game, [&] { finishIn(game); });
    const auto journal = readJournal(game, name);
    if (!journal) {
        std::vector<std::string> known;
        for (const Journal& one : readJournals(game)) known.push_back(one.name);
        throw Error(fmt::format("nothing called \"{}\" was installed", name), game.string(),
                    known.empty() ? "Nothing was." : "Installed: " + showNames(known) + ".");
    }
    folder.plan().name = name;
    if (journal->format == ownFormat)
        outAsItCame(folder, *journal, wishes);
    else if (goesOnShelf(journal->format))
        offShelf(folder, *journal, wishes);
    else
        outOfCity(folder, *journal, wishes);
    folder.leaveOwn(journalPath(name));
    folder.refuseWithoutRoom();
    return folder.take();
}

Plan planned(const fs::path& delivered, const fs::path& game, const Wishes& wishes) {
    return prepared(delivered, game, wishes).plan();
}

Plan plannedOut(const fs::path& game, const std::string& name, const Wishes& wishes) {
    return preparedOut(game, name, wishes).plan();
}

Plan install(const fs::path& delivered, const fs::path& game, const Wishes& wishes,
             const Progress& progress) {
    progress.report(0, "reading");
    const Prepared work = prepared(delivered, game, wishes);
    work.carryOut(progress);
    return work.plan();
}

Plan takeOut(const fs::path& game, const std::string& name, const Wishes& wishes, const Progress& progress) {
    progress.report(0, "reading");
    const Prepared work = preparedOut(game, name, wishes);
    work.carryOut(progress);
    return work.plan();
}

std::vector<std::string> found(const fs::path& game, const std::string& name) {
    std::vector<std::string> out;
    const auto journal = readJournal(game, name);
    if (!journal) return out;
    for (const auto& [path, table] : journal->tables)
        for (const std::string& key : rowsIn(readText(game / path, mostGameBytes), path, *journal))
            out.push_back(fmt::format("{}: the entry {}", path, key));
    for (const Journal::Addition& one : journal->additions) {
        if (one.kind == Journal::Addition::Kind::Row) continue;
        const std::string bytes = readText(game / one.path, mostGameBytes);
        if (one.kind == Journal::Addition::Kind::Line) {
            std::size_t line = 1;
            std::string_view rest = bytes;
            while (!rest.empty()) {
                const std::size_t end = std::min(rest.find_first_of("\r\n"), rest.size());
                if (rest.substr(0, end) == one.text)
                    out.push_back(fmt::format("{}, line {}: {}", one.path, line, one.text));
                rest.remove_prefix(end);
                rest.remove_prefix(rest.starts_with("\r\n") ? 2 : rest.empty() ? 0 : 1);
                ++line;
            }
        } else {
            const ZipRecords archive(bytes, one.path);
            if (archive.has(one.entry))
                out.push_back(fmt::format("{}: {}, {}", one.path, one.entry,
                                          showBytes(double(archive.sizeOf(one.entry)))));
        }
    }
    if (journal->additions.empty() || journal->format == ownFormat)
        for (const auto& [path, hash] : journal->files) {
            std::error_code error;
            const auto size = fs::file_size(game / path, error);
            if (!error) out.push_back(fmt::format("{}, {}", path, showBytes(double(size))));
        }
    return out;
}

std::vector<Journal> installed(const fs::path& game) {
    finishIn(game);
    return readJournals(game);
}

std::optional<fs::path> gameAmong(const fs::path& games, std::string_view format) {
    std::vector<fs::path> found;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(games, error))
        if (entry.is_directory(error) &&
            (format == cityFormat ? isCity(entry.path()) : takesOnShelf(entry.path(), format)))
            found.push_back(entry.path());
    if (found.empty()) return std::nullopt;
    return *std::ranges::min_element(found);
}

bool canInstall(const platform::Sheet& sheet) {
    return sheet.deliverable == cityFormat || goesOnShelf(sheet.deliverable) || saysWhere(sheet);
}

} // namespace zl::install
