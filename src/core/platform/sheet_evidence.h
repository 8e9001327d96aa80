#pragma once
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace zl::platform {

class TableReader;

/// How something of a sheet is known: from files that the game took, or refused.
struct SheetEvidence {
    std::string of;   ///< a rule's id, or what else it is about
    std::string said; ///< in words: "12 of 12 files have at most 4 096 corners"
    std::size_t files = 0, refused = 0;
    std::optional<double> least, middle, most;
    std::vector<std::string> names; ///< of some files behind it
};

/// What somebody learnt in the game itself.
struct GameAnswer {
    std::string piece;
    std::string when; ///< a day: "2026-11-30"
    bool accepted = false;
    std::string because; ///< the game's words, or whoever tried it; may be empty
    std::string note;    ///< whatever else is worth keeping; may be empty
    std::string limit;   ///< the id of the rule that it led to, if any
    /// What the delivered files were like, by the names of properties that examples have (core/learn).
    std::map<std::string, double> numbers;
    std::map<std::string, std::string> words;
};

/// A line of the game's log that the sheet knows.
struct LogPattern {
    std::string pattern; ///< POSIX extended, over one line
    std::string says;    ///< for people; {1} to {9} are what its brackets matched
    std::string rule;    ///< id of the rule that it is about; may be empty
    std::vector<std::string> mends;
    bool refuses = true; ///< it says that something was not taken
};

} // namespace zl::platform
