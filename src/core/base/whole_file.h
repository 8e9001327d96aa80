#pragma once
#include <filesystem>
#include <string_view>

namespace zl {

// What file_set.cpp writes with: files that are whole whenever they can be seen, and names for them that tell
// who made them, so that the leavings of a killed program can be told from the work of a running one.

/// The kinds of files that exist only while something is written.
inline constexpr std::string_view partFile = ".zest-part-", oldFile = ".zest-old-",
                                  listFile = ".zest-writing-";

/// A new path in `folder` that begins with `kind` and names this process.
std::filesystem::path passingPath(const std::filesystem::path& folder, std::string_view kind);

/// Whether `name` begins with `kind` and its process no longer runs.
bool isLeftBehind(const std::filesystem::path& name, std::string_view kind);

/// Writes `bytes` to `path`, flushed to the disk; on most disks the name appears only when all is there.
/// `mode` are its rights. Throws Refused about `target`, which it stands in for.
void writeWhole(const std::filesystem::path& path, const std::filesystem::path& target,
                std::string_view bytes, unsigned mode);

/// A second name for a file, or a copy where the disk has no second names. Throws Refused about `from`.
void keepAs(const std::filesystem::path& from, const std::filesystem::path& to);

/// Moves over whatever is at `to`. Throws Refused about it.
void moveOver(const std::filesystem::path& from, const std::filesystem::path& to);

/// Flushes a folder's list of names.
void flushFolder(const std::filesystem::path& folder);

[[noreturn]] void refuseWriting(const std::filesystem::path& path, int code);

} // namespace zl
