#pragma once
#include "core/base/file_set.h"
#include "core/base/hash.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace zl::install {

/// What an installation has done in a game's folder; kept there, so that another machine can undo it. Paths
/// are relative to the game's folder.
struct Journal {
    std::string name;
    std::string format;                    ///< of the delivery
    std::string keptAs;                    ///< empty where there was no original
    std::map<std::string, Hash> files;     ///< what was put there
    std::map<std::string, Hash> originals; ///< what was there before
    std::map<std::string, Hash> kept;      ///< the original under its other name
    /// What was put to a file that others use too.
    struct Addition {
        enum class Kind { Line, Entry, Body, Row } kind = Kind::Line;
        std::string path;     ///< of the file
        std::string entry;    ///< of an archive: the one that was added, or that a body was put into
        std::string text;     ///< the line, the lines of the body, or the key of the row
        std::string before{}; ///< of a row: the entry that had its key; may be empty
    };
    /// Ways to write a table, in the order of platform::TableOutput::Form.
    static constexpr std::string_view tableForms[] = {"csv", "xml", "json"};
    /// A table that rows were put into: how it is written, so that they can be taken out without its sheet.
    struct Table {
        std::string form, under, key; ///< as in a sheet's `[[table]]`
        Hash after = 0;               ///< all of it, as it was left
        bool made = false;            ///< the game had none
    };
    std::map<std::string, Table> tables{}; ///< by path
    std::vector<Addition> additions{};
    std::vector<std::string> madeWritable{}; ///< files that were read-only before
};

/// The journal's file, relative to the game's folder.
std::string journalPath(const std::string& name);
/// Where a file as it was before an installation is kept, relative to the game's folder.
std::string keptPath(const std::string& name, const std::string& path);
OutFile journalFile(const Journal& journal);

/// Nothing where there is none; throws Error for one that is broken or names files outside the game's folder.
std::optional<Journal> readJournal(const std::filesystem::path& game, const std::string& name);
/// All that can be read.
std::vector<Journal> readJournals(const std::filesystem::path& game);

} // namespace zl::install
