#pragma once
#include "core/files/address.h"
#include "core/files/files.h"

#include <functional>
#include <span>

namespace zl::files {

/// The endings of archives and packages, with their dots, in small letters.
std::span<const std::string_view> containerEndings();
/// Whether a file of this name is an archive or a package, by its ending.
bool isContainer(std::string_view name);

/// A file in an archive or a package, however deep.
struct Held {
    std::string path; ///< through the archives around it, as the inside of an address
    std::uint64_t bytes = 0;
    bool locked = false;
    int depth = 1; ///< archives around it
};

/// What an archive or a package holds.
struct Contents {
    std::vector<Held> held;
    std::vector<Passed> refused; ///< what is there but not listed, or cannot be opened, and why
};

/// Goes through the container at `file` in its own order. An archive within is itself visited first, then
/// what lies in it, if `enters` says so. All together counts towards the limits on entries and bytes, and no
/// archive is entered deeper than theirs on depth; what is not entered for a limit, a missing key or because
/// it is broken comes back with the reason, beside what each archive passed over. Throws Error when the
/// outermost cannot be opened.
std::vector<Passed>
goThrough(const std::filesystem::path& file, const Terms& terms, const Progress& progress,
          const std::function<bool(const Held& archive)>& enters,
          const std::function<void(const Held&, const Files&, const std::string&)>& visit);

/// All that `file` holds, also in archives within archives.
Contents contentsOf(const std::filesystem::path& file, const Terms& terms, const Progress& progress = {});

/// Opens the smallest locked file with the key of `terms`: throws KeyNeeded when it is the wrong one, Error
/// when nothing is locked.
void tryKey(const std::filesystem::path& file, const Contents& contents, const Terms& terms,
            const Progress& progress = {});

} // namespace zl::files
