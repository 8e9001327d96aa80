#pragma once
#include <filesystem>
#include <string>
#include <vector>

namespace zl {

/// One file to be written: a name relative to the output folder ('/' makes subfolders) and its bytes.
struct OutFile {
    std::string name;
    std::string bytes;
};

/// Writes all `files` below `folder`, or none: every file goes to a temporary name beside its place
/// first, is flushed to disk, and only when all are there are they renamed. What a rename replaced is
/// put back if a later one fails. Creates `folder` when missing.
/// Throws Refused when a name would leave the folder, is used twice, or the disk refuses.
void writeAllOrNone(const std::filesystem::path& folder, const std::vector<OutFile>& files);

/// The same for one file at `path`.
void writeFile(const std::filesystem::path& path, std::string_view bytes);

/// The whole file as text; throws Error when it cannot be read or is larger than `mostBytes`.
std::string readText(const std::filesystem::path& path, std::size_t mostBytes = 64u << 20);

/// `name` made safe as a file name on every system: letters, digits, '-', '_' stay, other runs become
/// one '-', at most 80 characters, lower case; never empty ("piece").
std::string fileNameFrom(std::string_view name);

} // namespace zl
