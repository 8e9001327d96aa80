#include "core/install/install.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/unique_names.h"
#include "core/base/units.h"
#include "core/base/words.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <optional>
#include <set>
#include <sys/stat.h>
#include <unistd.h>

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

constexpr std::size_t mostFiles = 10'000, mostBytes = std::size_t(2) << 30;

using Contents = std::vector<OutFile>; ///< names relative to the folder that was read

/// All files below a folder. What leads elsewhere, or is too much, is a problem.
Contents contentsOf(const fs::path& folder, std::vector<std::string>& problems) {
    Contents out;
    std::error_code error;
    std::size_t bytes = 0;
    if (!fs::exists(folder, error)) return out;
    for (auto at = fs::recursive_directory_iterator(folder, error); at != fs::recursive_directory_iterator();
         at.increment(error)) {
        const std::string name = at->path().lexically_relative(folder).generic_string();
        const auto status = at->symlink_status(error);
        if (fs::is_directory(status)) continue;
        if (!fs::is_regular_file(status)) {
            problems.push_back(fmt::format("{} leads elsewhere", at->path().string()));
            continue;
        }
        bytes += at->file_size(error);
        if (out.size() >= mostFiles || bytes > mostBytes) {
            problems.push_back(fmt::format("{} holds more than {} files or {}", folder.string(),
                                           showNumber(double(mostFiles), 0), showBytes(double(mostBytes))));
            return out;
        }
        out.push_back({name, readText(at->path(), mostBytes)});
    }
    if (error) problems.push_back(fmt::format("{} cannot be read ({})", folder.string(), error.message()));
    std::ranges::sort(out, {}, &OutFile::name);
    return out;
}

struct Delivery {
    const Shelf* shelf = nullptr;
    std::string name;
};

/// Whether a file is what a shelf takes deliveries by.
bool describes(const fs::path& file, const Shelf& shelf) {
    const std::string bytes = readText(file, mostBytes);
    if (shelf.isFile()) return bytes.starts_with(shelf.magic) && shelf.nameOf(file.filename().string());
    const auto about = parsedJson(bytes);
    return about.is_object() && about.value("format", nlohmann::json()) == shelf.format;
}

Delivery deliveryIn(const fs::path& folder) {
    std::error_code error;
    if (!fs::is_directory(folder, error))
        throw Error("is no folder", folder.string(), "Build the piece into it first.");
    Delivery out;
    for (const auto& entry : fs::directory_iterator(folder, error))
        for (const Shelf& shelf : shelves) {
            const std::string file = entry.path().filename().string();
            if (!file.ends_with(shelf.ending)) continue;
            if (out.shelf)
                throw Error("holds two deliveries", folder.string(), "Give each a folder of its own.");
            if (!describes(entry.path(), shelf))
                throw Error("describes no delivery", entry.path().string(), "Build the piece again.");
            out = {&shelf, file.substr(shelf.beginning.size(),
                                       file.size() - shelf.ending.size() - shelf.beginning.size())};
        }
    if (!out.shelf)
        throw Error("holds no delivery that can be installed", folder.string(),
                    "Build the piece into it first.");
    if (fileNameFrom(out.name) != out.name)
        throw Error(fmt::format("\"{}\" is no name for a {} of the game", out.name, out.shelf->noun),
                    folder.string(), "Build the piece again.");
    return out;
}

/// Ends what a killed program began where deliveries go; the rest of a game is large and none of ours.
void finishIn(const fs::path& game) {
    finishWriting(game);
    for (const Shelf& shelf : shelves) finishWritingBelow(game / shelf.folder);
    const fs::path journals = (game / journalPath("any")).parent_path();
    finishWritingBelow(journals);
    std::error_code ignored;
    fs::remove(journals, ignored); // goes where nothing is in it
}

} // namespace

class Game {
public:
    explicit Game(const fs::path& folder) : folder_(folder) {
        work_.game_ = folder;
        std::error_code error;
        if (!fs::is_directory(folder, error))
            throw Error("is no folder", folder.string(), "Choose the game's own folder.");
        finishIn(folder);
    }

    Prepared toInstall(const fs::path& delivered, const Wishes& wishes) {
        const Delivery delivery = deliveryIn(delivered);
        const std::string shelf(delivery.shelf->folder);
        std::error_code error;
        if (!fs::is_directory(fs::symlink_status(folder_ / shelf, error)))
            throw Error(fmt::format("has no folder \"{}\"", shelf), folder_.string(),
                        "Choose the game's own folder.");
        work_.plan_.name = delivery.name;
        const Shelf& takes = *delivery.shelf;
        refuseLink(takes.isFile() ? takes.place(delivery.name, {}) : shelf + "/" + delivery.name);
        const Contents own = takes.isFile()
                                 ? fileAt(delivered / fs::path(takes.place(delivery.name, {})).filename())
                                 : contentsOf(delivered, work_.plan_.problems),
                       there = takes.isFile()
                                   ? fileAt(folder_ / takes.place(delivery.name, {}))
                                   : contentsOf(folder_ / shelf / delivery.name, work_.plan_.problems);
        if (fs::weakly_canonical(delivered, error)
                .string()
                .starts_with(fs::weakly_canonical(folder_, error).string() + "/"))
            say(fmt::format("{} lies in the game's own folder", delivered.string()));
        for (const auto& entry : fs::directory_iterator(folder_ / shelf, error))
            if (const auto name = takes.nameOf(entry.path().filename().string());
                name && *name != delivery.name && lowerCase(*name) == lowerCase(delivery.name))
                say(fmt::format("The game has a {} \"{}\", which differs in its capitals alone", takes.noun,
                                *name));
        const auto before = readJournal(folder_, delivery.name);
        Journal journal = before.value_or(Journal{});
        journal.name = delivery.name, journal.format = delivery.shelf->format;
        std::map<std::string, Hash> files;
        for (const OutFile& file : own) files[takes.place(delivery.name, file.name)] = hashText(file.bytes);
        std::set<std::string> old;
        if (before) {
            refuseChanged(before->files, wishes);
            for (const auto& [path, hash] : before->files) old.insert(path);
        } else if (!there.empty()) {
            keepOriginal(journal, *delivery.shelf, there, wishes);
            for (const OutFile& file : there) old.insert(takes.place(delivery.name, file.name));
        }
        for (const std::string& path : old)
            if (!files.contains(path)) leave(path);
        for (const OutFile& file : own) write(takes.place(delivery.name, file.name), file.bytes);
        journal.files = std::move(files);
        work_.plan_.keptAs = journal.keptAs;
        work_.writes_.push_back(journalFile(journal));
        refuseWithoutRoom();
        return std::move(work_);
    }

    Prepared toTakeOut(const std::string& name, const Wishes& wishes) {
        const auto journal = readJournal(folder_, name);
        if (!journal) {
            std::vector<std::string> known;
            for (const Journal& one : readJournals(folder_)) known.push_back(one.name);
            throw Error(fmt::format("nothing called \"{}\" was installed", name), folder_.string(),
                        known.empty() ? "Nothing was." : "Installed: " + showNames(known) + ".");
        }
        work_.plan_.name = name;
        refuseChanged(journal->files, wishes);
        restoreOriginal(*journal);
        for (const auto& [path, hash] : journal->files)
            if (!journal->originals.contains(path)) leave(path);
        work_.leaving_.push_back(journalPath(name));
        refuseWithoutRoom();
        return std::move(work_);
    }

private:
    void say(std::string problem) { work_.plan_.problems.push_back(std::move(problem)); }

    /// One file as contents; nothing where it is not there, or leads elsewhere.
    static Contents fileAt(const fs::path& file) {
        std::error_code error;
        if (!fs::is_regular_file(fs::symlink_status(file, error))) return {};
        return {{file.filename().string(), readText(file, mostBytes)}};
    }

    std::optional<Hash> hashAt(const std::string& path) const {
        std::error_code error;
        if (!fs::is_regular_file(fs::symlink_status(folder_ / path, error))) return std::nullopt;
        return hashFile(folder_ / path);
    }

    void refuseLink(const std::string& path) {
        std::error_code error;
        fs::path at = folder_;
        for (const fs::path& part : fs::path(path)) {
            at /= part;
            if (fs::is_symlink(fs::symlink_status(at, error)))
                return say(fmt::format("{} leads elsewhere", at.string()));
        }
    }

    /// A file or folder is read-only when nobody may write it, whoever asks.
    void refuseReadOnly(const fs::path& path) {
        struct stat status {};
        if (::lstat(path.c_str(), &status) != 0) return;
        if ((status.st_mode & 0222) == 0 || ::access(path.c_str(), W_OK) != 0)
            if (readOnly_.insert(path.string()).second)
                say(fmt::format("{} is read-only", path.lexically_relative(folder_).generic_string()));
    }
    /// The nearest folder above a path that is there already.
    void refuseReadOnlyAbove(const std::string& path) {
        std::error_code error;
        fs::path above = (folder_ / path).parent_path();
        while (above != folder_ && !fs::exists(above, error)) above = above.parent_path();
        refuseReadOnly(above);
    }

    void write(const std::string& path, std::string bytes, Change::Kind fresh = Change::Kind::Added) {
        const auto there = hashAt(path);
        const auto kind = there ? Change::Kind::Replaced : fresh;
        refuseLink(path);
        refuseReadOnlyAbove(path);
        refuseReadOnly(folder_ / path);
        if (there == hashText(bytes)) return; // it is there already
        work_.plan_.changes.push_back({kind, path, bytes.size()});
        work_.writes_.push_back({path, std::move(bytes)});
    }
    void leave(const std::string& path) {
        if (!hashAt(path)) return;
        refuseLink(path);
        refuseReadOnlyAbove(path);
        refuseReadOnly(folder_ / path);
        work_.plan_.changes.push_back({Change::Kind::Removed, path, 0});
        work_.leaving_.push_back(path);
    }

    void refuseChanged(const std::map<std::string, Hash>& files, const Wishes& wishes) {
        if (wishes.losesChanges) return;
        std::vector<std::string> changed;
        for (const auto& [path, hash] : files)
            if (const auto now = hashAt(path); now && *now != hash) changed.push_back(path);
        if (!changed.empty())
            say(fmt::format("{} changed since it was installed: {}",
                            changed.size() == 1 ? "A file has" : "Files have", showNames(changed)));
    }

    void keepOriginal(Journal& journal, const Shelf& shelf, const Contents& there, const Wishes& wishes) {
        const std::string folder(shelf.folder);
        std::error_code error;
        UniqueNames names;
        for (const auto& entry : fs::directory_iterator(folder_ / folder, error))
            if (!entry.is_directory(error) || !fs::is_empty(entry.path(), error)) // an empty one is nobody's
                if (const auto name = shelf.nameOf(entry.path().filename().string()))
                    names.take(lowerCase(*name));
        journal.keptAs = wishes.keepAs.empty() ? names.made(journal.name + "-original") : wishes.keepAs;
        if (fileNameFrom(journal.keptAs) != journal.keptAs)
            return say(fmt::format("\"{}\" is no name for a {} of the game; \"{}\" is", journal.keptAs,
                                   shelf.isFile() ? "file" : "folder", fileNameFrom(journal.keptAs)));
        if (!wishes.keepAs.empty() && !names.take(wishes.keepAs))
            return say(fmt::format("The game has a {} \"{}\" already", shelf.noun, wishes.keepAs));
        for (const OutFile& file : there) {
            journal.originals[shelf.place(journal.name, file.name)] = hashText(file.bytes);
            const std::string path = shelf.place(journal.keptAs, file.name);
            journal.kept[path] = hashText(file.bytes);
            write(path, file.bytes, Change::Kind::Kept);
        }
    }

    /// From where it was kept, by its bytes; the kept one goes, unless somebody has changed it.
    void restoreOriginal(const Journal& journal) {
        std::map<Hash, std::string> keptPaths;
        for (const auto& [path, hash] : journal.kept)
            if (hashAt(path) == hash) keptPaths[hash] = path;
        bool all = true;
        for (const auto& [path, hash] : journal.originals) {
            if (hashAt(path) == hash) continue;
            const auto kept = keptPaths.find(hash);
            if (kept == keptPaths.end()) {
                say(fmt::format("\"{}\" is not as it was kept any more, so {} cannot be put back",
                                journal.keptAs, path));
                all = false;
                continue;
            }
            write(path, readText(folder_ / kept->second, mostBytes));
        }
        if (!all) return;
        const bool untouched = std::ranges::all_of(
            journal.kept, [&](const auto& file) { return hashAt(file.first) == file.second; });
        if (untouched)
            for (const auto& [path, hash] : journal.kept) leave(path);
        else
            work_.plan_.keptAs = journal.keptAs;
    }

    void refuseWithoutRoom() {
        std::size_t needed = 0;
        for (const OutFile& file : work_.writes_) needed += file.bytes.size();
        std::error_code error;
        const auto space = fs::space(folder_, error);
        if (!error && space.available < needed)
            say(fmt::format("There is no room: {} are needed and {} are free", showBytes(double(needed)),
                            showBytes(double(space.available))));
    }

    fs::path folder_;
    Prepared work_;
    std::set<std::string> readOnly_;
};

void Prepared::carryOut(const Progress& progress) const {
    if (!plan_.problems.empty()) throw Refused(plan_.problems[0], game_.string(), "Nothing was changed.");
    progress.report(0.4, "writing");
    progress.checkCancel();
    writeAllOrNone(game_, writes_, leaving_);
    progress.report(0.8, "reading back");
    for (const OutFile& file : writes_)
        if (readText(game_ / file.name, mostBytes) != file.bytes)
            throw Error("does not hold what was written", (game_ / file.name).string(),
                        "Something else writes there too; install again when it has ended.");
}

Prepared prepared(const fs::path& delivered, const fs::path& game, const Wishes& wishes) {
    return Game(game).toInstall(delivered, wishes);
}

Prepared preparedOut(const fs::path& game, const std::string& name, const Wishes& wishes) {
    return Game(game).toTakeOut(name, wishes);
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

std::vector<Journal> installed(const fs::path& game) {
    finishIn(game);
    return readJournals(game);
}

bool canInstall(std::string_view format) {
    return std::ranges::find(shelves, format, &Shelf::format) != std::end(shelves);
}

} // namespace zl::install
