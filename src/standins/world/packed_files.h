#pragma once
#include <map>
#include <string>

namespace zl::standins::world {

/// An archive as a game reads it: names to what is in them. An entry that leads out of it, is too large or
/// stands in it twice makes it a broken one.
struct PackedFiles {
    std::map<std::string, std::string> entries;
    std::string problem; ///< why it cannot be read; empty when it could
};

/// A zip; at most `mostBytes` in all when unpacked.
PackedFiles readZip(const std::string& bytes, std::size_t mostBytes);
/// A zip, a 7z or a tar, packed or not: what it is, its first bytes say.
PackedFiles readPacked(const std::string& bytes, std::size_t mostBytes);

/// Whether it is an archive that readPacked opens, by its ending.
bool isPacked(const std::string& path);

/// Whether an entry's name is no path below the archive.
bool leadsOut(const std::string& name);

} // namespace zl::standins::world
