#pragma once
#include "core/files/contents.h"

namespace zl::files {

/// What was taken out of a container, and what was not.
struct TakenOut {
    struct File {
        std::string inside;         ///< as in Held
        std::filesystem::path file; ///< where it is now
        bool renamed = false;       ///< its own name was not to be had there
    };
    std::vector<File> files;
    std::vector<Passed> refused; ///< chosen, but broken, locked or over a limit, and why
};

/// The files that `chosen` names in what a container holds: paths, folders, or patterns with `*`. An archive
/// within is taken as the file that it is; what lies in it is named by a path of its own. Throws Error for
/// one that names nothing.
std::vector<std::string> chosenOf(const Contents& contents, const std::vector<std::string>& chosen);

/// Writes files of a container below `folder`, each whole or not at all, in the folders that they have below
/// the innermost one that holds them all. Names that some system could not have are written otherwise, and
/// nothing that is there is written over: both get another name. `folder` is made when it is missing; nothing
/// is written outside of it, whatever links are in it. Throws Error when the container cannot be opened,
/// Refused when the disk refuses, KeyNeeded when a chosen file is locked and the key is missing or wrong.
TakenOut takeOut(const std::filesystem::path& container, const std::vector<std::string>& insides,
                 const std::filesystem::path& folder, const Terms& terms, const Progress& progress = {});

} // namespace zl::files
