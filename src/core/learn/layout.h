#pragma once
#include "core/base/name_styles.h"
#include "core/learn/file_facts.h"

namespace zl::learn {

/// What a file is within its group.
enum class Part { Model, Body, Picture, Text, Other };

/// A file of a group: its path below the group's own folder with the names in it as places, as sheets have
/// them: "{name}/{name}_d.png", "textures/{material}-n.png".
struct Member {
    std::size_t file = 0;
    Part part = Part::Other;
    std::string pattern;
    std::string object, material; ///< what {object}, or {material}, stands for here
};

/// Files that go together: one piece as the game has it.
struct Group {
    std::string name;   ///< as its files have it
    std::string folder; ///< that is its own, with its '/'; empty where several groups share one
    bool refused = false;
    std::vector<Member> members;
};

/// How the game has its files.
struct Layout {
    std::vector<Group> groups;            ///< accepted first
    NameStyle style = NameStyle::Hyphens; ///< in which files are named after their piece
    std::string prefix;                   ///< that nearly all their names begin with, before the piece's own
    bool ownFolders = false;              ///< each piece has a folder of its own
    std::vector<std::size_t> lone;        ///< files that go with no group

    /// What groups have, with how many of the accepted have it, the most common first.
    struct Pattern {
        std::string path;
        Part part = Part::Other; ///< of its files, or of most; others do not count
        std::size_t groups = 0;  ///< that have it
        std::size_t files = 0;
    };
    std::vector<Pattern> patterns;
};

/// Groups files by the folder that each piece has to itself, or else by the names of models: what begins
/// like one goes with it.
Layout layoutOf(const std::vector<FileFacts>& files);

/// "model", "body", "picture", "text", "file".
std::string_view partWord(Part part);

} // namespace zl::learn
