#pragma once
#include "core/base/progress.h"
#include "core/install/journal.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace zl::platform {
struct Sheet;
}

namespace zl::install {

/// One file of a game's folder that is to change.
struct Change {
    /// Kept: a copy of the original. Extended: what others have in it stays, and something is put to it or
    /// taken from it.
    enum class Kind { Added, Replaced, Removed, Kept, Extended } kind = Kind::Added;
    std::string path;                   ///< relative to the game's folder
    std::size_t bytes = 0;              ///< of what is there afterwards
    std::vector<std::string> details{}; ///< what is new in it, or goes: entries, or lines with their numbers
};

/// What would be done, and why it cannot be.
struct Plan {
    std::string name;   ///< what the game will know it by
    std::string keptAs; ///< what the original is called afterwards; empty where there is none
    std::vector<Change> changes;
    std::vector<std::string> problems; ///< sentences; with any of them nothing is done
    std::vector<std::string> readOnly; ///< files of the game that stand in the way for that alone
    std::vector<std::string>
        mergeInto;                  ///< collision files that ours could be put into, where no more can come
    std::vector<std::string> notes; ///< what is worth a word and stands in nobody's way
};

struct Wishes {
    std::string keepAs;        ///< name for the original; empty finds one
    bool losesChanges = false; ///< what others have changed since is given up
    bool makeWritable = false; ///< read-only tables of the game are made writable
    std::string mergeInto{};   ///< a collision file of the game that ours is put into
};

/// Something that is ready to be done to a game's folder, with all the bytes: looked at first, then carried
/// out without reading anything again.
class Prepared {
public:
    const Plan& plan() const { return plan_; }
    /// Does it, all or nothing, also when the program is killed on the way (finishWriting()), and reads back
    /// what was written. Throws Refused with the plan's first problem, or when the disk refuses.
    void carryOut(const Progress& progress = {}) const;

private:
    friend class GameFolder;
    std::filesystem::path game_;
    Plan plan_;
    std::vector<OutFile> writes_;
    std::vector<std::string> leaving_;
    std::vector<std::string> writable_, readOnly_;
};

/// A delivery into a game's folder. Whatever the game has under that name becomes an entry of its own; an
/// earlier installation is brought up to date, and its original stays kept. Looks for things that are
/// read-only, taken, changed since, or lead elsewhere, and for room. Throws Error for a delivery or a game's
/// folder that is none.
Prepared prepared(const std::filesystem::path& delivered, const std::filesystem::path& game,
                  const Wishes& wishes = {});
/// The same for a platform's delivery: where its sheet says what goes where, that is followed. `name` is what
/// it is called there.
Prepared preparedFor(const platform::Sheet& sheet, const std::string& name,
                     const std::filesystem::path& delivered, const std::filesystem::path& game,
                     const Wishes& wishes = {});
/// An installation out again: what was there before is there again, byte for byte. What others have put
/// beside it stays. Throws Error when nothing of that name was installed.
Prepared preparedOut(const std::filesystem::path& game, const std::string& name, const Wishes& wishes = {});

// The same in one go: only looked at, or carried out.
Plan planned(const std::filesystem::path& delivered, const std::filesystem::path& game,
             const Wishes& wishes = {});
Plan install(const std::filesystem::path& delivered, const std::filesystem::path& game,
             const Wishes& wishes = {}, const Progress& progress = {});
Plan plannedOut(const std::filesystem::path& game, const std::string& name, const Wishes& wishes = {});
Plan takeOut(const std::filesystem::path& game, const std::string& name, const Wishes& wishes = {},
             const Progress& progress = {});

/// What was installed there, by name. Ends first what a killed program had begun.
std::vector<Journal> installed(const std::filesystem::path& game);

/// What the game's folder now says of an installed thing, read from the disk: table lines with file and
/// number, entries of archives with their sizes; for what has a place of its own there, its files.
std::vector<std::string> found(const std::filesystem::path& game, const std::string& name);

/// A game's folder that takes deliveries of that format, among those in `games` (each a folder of its own),
/// the first by name; nothing where none does.
std::optional<std::filesystem::path> gameAmong(const std::filesystem::path& games, std::string_view format);

/// Whether what is delivered by a sheet can be put into a game's folder.
bool canInstall(const platform::Sheet& sheet);

} // namespace zl::install
