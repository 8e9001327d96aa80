#pragma once
#include <filesystem>
#include <string>

namespace zl::files {

/// Where a file is: on the disk, or inside one that is. It is written as one path that leads through the
/// archive as if that were a folder ("kits/quay.zip/lamps/bell.obj"), so that whatever keeps a path keeps an
/// address.
struct Address {
    std::filesystem::path file; ///< on the disk
    std::string inside;         ///< '/' between folders; empty for the file itself

    std::filesystem::path path() const { return inside.empty() ? file : file / inside; }
};

/// Takes a path apart: the disk's file is its first part that is one. A path that leads to nothing is a
/// missing file of the disk.
Address addressOf(const std::filesystem::path& path);

} // namespace zl::files
