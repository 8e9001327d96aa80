// Deliveries that a game keeps beside one another: a folder each, or a file each.
#include "core/install/shelf.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/unique_names.h"
#include "core/install/folder_contents.h"
#include "core/install/originals.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

/// Where deliveries of one format go in a game's folder: each has a folder of its own, by its name, or is one
/// file among others.
struct Shelf {
    std::string_view format;
    std::string_view ending; ///< of the file that describes a delivery, or is it
    std::string_view folder; ///< in the game's
    std::string_view noun;
    std::string_view beginning{}; ///< of the one file's name, and the bytes that it begins with;
    std::string_view magic{};     ///< both empty for folders

    bool isFile() const { return !magic.empty(); }
    /// Where a thing of that name has a file, below the game's folder.
    std::string place(const std::string& name, const std::string& file) const {
        const std::string in = std::string(folder) + "/";
        return isFile() ? in + std::string(beginning) + name + std::string(ending) : in + name + "/" + file;
    }
    /// The name of the thing that an entry of the shelf is; nothing for what is none.
    std::optional<std::string> nameOf(const std::string& entry) const {
        if (!isFile()) return entry;
        if (entry.size() <= beginning.size() + ending.size() || !entry.starts_with(beginning) ||
            !entry.ends_with(ending))
            return std::nullopt;
        return entry.substr(beginning.size(), entry.size() - beginning.size() - ending.size());
    }
};
constexpr Shelf shelves[] = {{"race-car", ".car.json", "cars", "car"},
                             {"kart", ".kcb", "karts", "kart", "kart.", "KCB1"}};

using Contents = std::vector<OutFile>; ///< names relative to the folder that was read

/// Whether a file is what a shelf takes deliveries by.
bool describes(const fs::path& file, const Shelf& shelf) {
    const std::string bytes = readText(file, mostGameBytes);
    if (shelf.isFile()) return bytes.starts_with(shelf.magic) && shelf.nameOf(file.filename().string());
    const auto about = parsedJson(bytes);
    return about.is_object() && about.value("format", nlohmann::json()) == shelf.format;
}

const Shelf& shelfOf(std::string_view format) {
    return *std::ranges::find(shelves, format, &Shelf::format);
}

/// One file as contents; nothing where it is not there, or leads elsewhere.
Contents fileAt(const fs::path& file) {
    std::error_code error;
    if (!fs::is_regular_file(fs::symlink_status(file, error))) return {};
    return {{file.filename().string(), readText(file, mostGameBytes)}};
}

void keepOriginal(GameFolder& game, Journal& journal, const Shelf& shelf, const Contents& there,
                  const Wishes& wishes) {
    const std::string folder(shelf.folder);
    std::error_code error;
    UniqueNames names;
    for (const auto& entry : fs::directory_iterator(game.path() / folder, error))
        if (!entry.is_directory(error) || !fs::is_empty(entry.path(), error)) // an empty one is nobody's
            if (const auto name = shelf.nameOf(entry.path().filename().string()))
                names.take(lowerCase(*name));
    journal.keptAs = wishes.keepAs.empty() ? names.made(journal.name + "-original") : wishes.keepAs;
    if (fileNameFrom(journal.keptAs) != journal.keptAs)
        return game.say(fmt::format("\"{}\" is no name for a {} of the game; \"{}\" is", journal.keptAs,
                                    shelf.isFile() ? "file" : "folder", fileNameFrom(journal.keptAs)));
    if (!wishes.keepAs.empty() && !names.take(wishes.keepAs))
        return game.say(fmt::format("The game has a {} \"{}\" already", shelf.noun, wishes.keepAs));
    for (const OutFile& file : there) {
        journal.originals[shelf.place(journal.name, file.name)] = hashText(file.bytes);
        const std::string path = shelf.place(journal.keptAs, file.name);
        journal.kept[path] = hashText(file.bytes);
        game.write(path, file.bytes, Change::Kind::Kept);
    }
}

} // namespace

bool goesOnShelf(std::string_view format) {
    return std::ranges::find(shelves, format, &Shelf::format) != std::end(shelves);
}

bool takesOnShelf(const fs::path& game, std::string_view format) {
    std::error_code error;
    return goesOnShelf(format) && fs::is_directory(game / shelfOf(format).folder, error);
}

void finishShelves(const fs::path& game) {
    for (const Shelf& shelf : shelves) finishWritingBelow(game / shelf.folder);
}

std::optional<Delivered> shelfDelivery(const fs::path& folder) {
    std::optional<Delivered> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder, error))
        for (const Shelf& shelf : shelves) {
            const std::string file = entry.path().filename().string();
            if (!file.ends_with(shelf.ending)) continue;
            if (out) throw Error("holds two deliveries", folder.string(), "Give each a folder of its own.");
            if (!describes(entry.path(), shelf))
                throw Error("describes no delivery", entry.path().string(), "Build the piece again.");
            out = {std::string(shelf.format),
                   file.substr(shelf.beginning.size(),
                               file.size() - shelf.ending.size() - shelf.beginning.size())};
        }
    if (out && fileNameFrom(out->name) != out->name)
        throw Error(
            fmt::format("\"{}\" is no name for a {} of the game", out->name, shelfOf(out->format).noun),
            folder.string(), "Build the piece again.");
    return out;
}

void ontoShelf(GameFolder& game, const Delivered& what, const fs::path& folder, const Wishes& wishes) {
    const Shelf& takes = shelfOf(what.format);
    const std::string shelf(takes.folder), &name = what.name;
    std::error_code error;
    if (!fs::is_directory(fs::symlink_status(game.path() / shelf, error)))
        throw Error(fmt::format("has no folder \"{}\"", shelf), game.path().string(),
                    "Choose the game's own folder.");
    game.refuseLink(takes.isFile() ? takes.place(name, {}) : shelf + "/" + name);
    auto& problems = game.plan().problems;
    const Contents own = takes.isFile() ? fileAt(folder / fs::path(takes.place(name, {})).filename())
                                        : folderContents(folder, problems),
                   there = takes.isFile() ? fileAt(game.path() / takes.place(name, {}))
                                          : folderContents(game.path() / shelf / name, problems);
    for (const auto& entry : fs::directory_iterator(game.path() / shelf, error))
        if (const auto known = takes.nameOf(entry.path().filename().string());
            known && *known != name && lowerCase(*known) == lowerCase(name))
            game.say(fmt::format("The game has a {} \"{}\", which differs in its capitals alone", takes.noun,
                                 *known));
    const auto before = readJournal(game.path(), name);
    Journal journal = before.value_or(Journal{});
    journal.name = name, journal.format = what.format;
    std::map<std::string, Hash> files;
    for (const OutFile& file : own) files[takes.place(name, file.name)] = hashText(file.bytes);
    std::set<std::string> old;
    if (before) {
        game.refuseChanged(before->files, wishes);
        for (const auto& [path, hash] : before->files) old.insert(path);
    } else if (!there.empty()) {
        keepOriginal(game, journal, takes, there, wishes);
        for (const OutFile& file : there) old.insert(takes.place(name, file.name));
    }
    for (const std::string& path : old)
        if (!files.contains(path)) game.leave(path);
    for (const OutFile& file : own) game.write(takes.place(name, file.name), file.bytes);
    journal.files = std::move(files);
    game.plan().keptAs = journal.keptAs;
    game.writeOwn(journalFile(journal));
}

void offShelf(GameFolder& game, const Journal& journal, const Wishes& wishes) {
    game.refuseChanged(journal.files, wishes);
    restoreOriginals(game, journal);
    for (const auto& [path, hash] : journal.files)
        if (!journal.originals.contains(path)) game.leave(path);
}

} // namespace zl::install
