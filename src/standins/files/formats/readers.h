#pragma once
#include "standins/files/delivered.h"

namespace zl::standins::files {

// A reader a format, in a file of its own: what the file at `path` below `folder` holds, or why nothing is
// known of it, in `problem`. None shares a line with the readers and writers of the product.
Read readObj(const std::filesystem::path& folder, const std::string& path);
Read readStl(const std::filesystem::path& folder, const std::string& path);
Read readPly(const std::filesystem::path& folder, const std::string& path);
Read readGlb(const std::filesystem::path& folder, const std::string& path);
Read readCollada(const std::filesystem::path& folder, const std::string& path);
Read readX3d(const std::filesystem::path& folder, const std::string& path);
Read read3mf(const std::filesystem::path& folder, const std::string& path);
Read readLevel(const std::filesystem::path& folder, const std::string& path);

// What they share.
/// Thrown within a reader; its text is the file's `problem`.
struct Broken {
    std::string why;
};
/// Corners and indices that a file may come to when what it shows many times is counted each time.
inline constexpr std::size_t mostCornersShown = 20'000'000;
std::string wholeOf(const std::filesystem::path& file);
/// A name in the file at `path` as a path below the delivered folder.
std::string beside(const std::string& path, const std::string& name);
/// Adds an object of this shape; its name is one of the file's nodes, too.
void addObject(Read& read, std::string name, world::Shape shape, std::string material = {});
/// A material's name, once.
void addMaterial(Read& read, const std::string& name);

/// A file that somebody else wrote, of any format that the product itself reads: for what is only shown and
/// compared, never judged.
Read readForeign(const std::filesystem::path& folder, const std::string& path);

} // namespace zl::standins::files
