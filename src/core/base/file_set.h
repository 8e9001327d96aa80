#pragma once
#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// One file to be written: a name relative to the output folder ('/' makes subfolders) and its bytes.
struct OutFile {
    std::string name;
    std::string bytes;
};

/// Writes all `files` below `folder`, or none. Every file is written whole and flushed beside its place
/// before the first one takes it; each then takes its place in one move, so that at no moment a file is
/// missing or half there. What was replaced is put back if a later one fails. When the program is killed
/// between the first move and the last, the rest is moved by the next write to `folder`, or by
/// finishWriting(). Creates `folder` when missing. Throws Refused when a name would leave the folder, is used
/// twice, or the disk refuses.
/// Files called as `leaving` says go in the same way; one that is not there is no error. Folders that are
/// empty then go too.
void writeAllOrNone(const std::filesystem::path& folder, const std::vector<OutFile>& files,
                    const std::vector<std::string>& leaving = {});

/// The same for one file at `path`, through a link where it is one; the file's rights stay as they were.
/// `backup`, when given, keeps what was at `path` before, unless that was the same.
void writeFile(const std::filesystem::path& path, std::string_view bytes,
               const std::filesystem::path& backup = {});

/// Ends what a killed program began in `folder`: files that were to take their places together take them, and
/// what was not ready is cleared away. What programs that still run are writing is left alone.
void finishWriting(const std::filesystem::path& folder);

/// The same, and clears away in all folders below what had not come to taking a place; folders that held
/// nothing else go too.
void finishWritingBelow(const std::filesystem::path& folder);

/// The whole file as text; throws Error when it cannot be read or is larger than `mostBytes`.
std::string readText(const std::filesystem::path& path, std::size_t mostBytes = 64u << 20);

/// `name` made safe as a file name on every system: letters, digits, '-', '_' stay, other runs become
/// one '-', at most 80 characters, lower case; never empty ("piece").
std::string fileNameFrom(std::string_view name);

} // namespace zl
